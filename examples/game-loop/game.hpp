// The stand-in game: level ground with a wall at its end, a player who presses what is written down here, and the
// courier, who decides by the generated code.
#pragma once

#include "courier.hpp"

constexpr int FRAMES = 440;

struct Game {
  courier::Situation body;
  courier::Senses senses;
  courier::Inputs inputs;
  double x = 1.0; // m; where the feet are
  double y = 0.0; // m, upward

  // One tick: what is pressed, what is sensed, what the courier decides, how she moves.
  void step(int frame) {
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
    move();
  }

private:
  static constexpr double HALF_WIDTH = 0.35; // m
  static constexpr double WALL = 24.0; // m; where the quay ends

  void move() {
    x += body.vx * courier::dt;
    y += body.vy * courier::dt;
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
  }

  // What the player does: a key is held from a frame up to another.
  static bool isHeld(int frame, char key) {
    struct Held {
      int from, to;
      char key;
    };
    static constexpr Held PLAYED[] = {
        {10, 200, '>'},  {40, 58, 'j'},   {64, 70, 'j'},   {110, 140, 'd'}, {175, 178, 'b'}, {200, 320, '>'},
        {230, 250, 'j'}, {262, 268, 'b'}, {276, 318, 'j'}, {330, 420, '<'}, {360, 366, 'j'},
    };
    for (const Held& held : PLAYED) {
      if (held.key == key && frame >= held.from && frame < held.to) return true;
    }
    return false;
  }
};
