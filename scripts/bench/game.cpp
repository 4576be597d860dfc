// How long a tick of the courier takes as generated code, in the stand-in game: nanoseconds, the best of many plays.
#include <chrono>
#include <cstdio>
#include <cstdlib>

#include "../../examples/game-loop/game.hpp"

int main(int, char** arguments) {
  const int plays = std::atoi(arguments[1]);
  double best = 1e18;
  double sum = 0.0;
  for (int play = 0; play < plays; play++) {
    Game game;
    const auto start = std::chrono::steady_clock::now();
    for (int frame = 0; frame < FRAMES; frame++) game.step(frame);
    const std::chrono::duration<double, std::nano> took = std::chrono::steady_clock::now() - start;
    if (took.count() < best) best = took.count();
    sum += game.x;
  }
  std::printf("%.3f %.6f\n", best / FRAMES, sum / plays);
}
