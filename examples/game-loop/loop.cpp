// A stand-in for a game: a quay with a wall at its end, and the courier on it. It senses, asks the generated code what
// to do, moves, and logs every tick, as one's own game would.
//
//   glenmark code examples/courier.yaml --to cpp --out build
//   g++ -std=c++17 -O2 -ffp-contract=off -I build examples/game-loop/loop.cpp -o build/loop
//   build/loop > build/log.csv
//   glenmark compare examples/courier.yaml --course examples/game-loop/quay.yaml --log build/log.csv
//
// With -DHEAVY_LANDING the game takes a third of the speed on landing, which the model knows nothing of.
#include <cstdio>

#include "courier.hpp"

namespace {

using courier::dt;

constexpr double HALF_WIDTH = 0.35; // m
constexpr double WALL = 24.0; // m; where the quay ends

// What the player does: a control is held from a tick up to another.
struct Held {
  int from, to;
  char key;
};
constexpr Held PLAYED[] = {
    {10, 200, '>'}, {40, 58, 'j'}, {64, 70, 'j'}, {110, 140, 'd'}, {175, 178, 'b'},
    {200, 320, '>'}, {230, 250, 'j'}, {262, 268, 'b'}, {276, 318, 'j'}, {330, 420, '<'}, {360, 366, 'j'},
};

bool isHeld(int tick, char key) {
  for (const Held& held : PLAYED) {
    if (held.key == key && tick >= held.from && tick < held.to) return true;
  }
  return false;
}

const char* pose(courier::Legs legs) {
  switch (legs) {
    case courier::Legs::Trot: return "run";
    case courier::Legs::Rise:
    case courier::Legs::Fall: return "jump";
    case courier::Legs::Slide: return "slide";
    case courier::Legs::Gust: return "boost";
  }
  return "";
}

} // namespace

int main() {
  courier::Situation body;
  courier::Senses senses;
  courier::Inputs inputs;
  double x = 1.0;
  double y = 0.0;
  std::puts("frame,stick,jump,duck,boost,px [cm],py [cm],sx,sy,look,pose,parasol");
  for (int frame = 0; frame < 440; frame++) {
    inputs.move = (isHeld(frame, '>') ? 1.0 : 0.0) - (isHeld(frame, '<') ? 1.0 : 0.0);
    inputs.hop = isHeld(frame, 'j');
    inputs.tuck = isHeld(frame, 'd');
    inputs.gust = isHeld(frame, 'b');

    // There is nothing above the quay, so every stance fits.
    senses.grounded = y == 0.0 && body.vy <= 0.0;
    senses.groundNormalY = senses.grounded ? 1.0 : 0.0;
    senses.fitsUpright = true;
    senses.fitsTucked = true;

    courier::tick(body, senses, inputs);

    x += body.vx * dt;
    y += body.vy * dt;
    if (y <= 0.0) {
#ifdef HEAVY_LANDING
      if (body.vy < 0.0) body.vx *= 2.0 / 3.0;
#endif
      y = 0.0;
      body.vy = 0.0;
    }
    if (x > WALL - HALF_WIDTH) {
      x = WALL - HALF_WIDTH;
      body.vx = 0.0;
    }
    std::printf("%d,%g,%d,%d,%d,%.6f,%.6f,%.9f,%.9f,%s,%s,%s\n", frame, inputs.move, inputs.hop, inputs.tuck,
                inputs.gust, x * 100.0, y * 100.0, body.vx, body.vy, body.facing > 0.0 ? "1" : "-1", pose(body.legs),
                body.parasol == courier::Parasol::Open ? "open" : "closed");
  }
}
