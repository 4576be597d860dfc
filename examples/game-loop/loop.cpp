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

#include "game.hpp"

namespace {

// What this game calls the states of the legs.
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
  Game game;
  std::puts("frame,stick,jump,duck,boost,px [cm],py [cm],sx,sy,look,pose,parasol");
  for (int frame = 0; frame < FRAMES; frame++) {
    game.step(frame);
    const courier::Situation& body = game.body;
    const courier::Inputs& inputs = game.inputs;
    std::printf("%d,%g,%d,%d,%d,%.6f,%.6f,%.9f,%.9f,%s,%s,%s\n", frame, inputs.move, inputs.hop, inputs.tuck,
                inputs.gust, game.x * 100.0, game.y * 100.0, body.vx, body.vy, body.facing > 0.0 ? "1" : "-1",
                pose(body.legs), body.parasol == courier::Parasol::Open ? "open" : "closed");
  }
}
