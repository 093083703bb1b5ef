/* Linear blend skinning of 100,000 points, four influences of 64 bones: the same work as bench/skin.ts. Prints the median in ms. */
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

#define POINTS 100000
#define BONES 64
#define ROUNDS 60

static double rest[2 * POINTS], weights[4 * POINTS], out[2 * POINTS], maps[6 * BONES], times[ROUNDS];
static int offsets[4 * POINTS];

static double unit(void) {
  static unsigned long state = 8;
  state = state * 48271 % 2147483647;
  return state / 2147483647.0;
}

static int ascending(const void *a, const void *b) {
  double x = *(const double *)a, y = *(const double *)b;
  return (x > y) - (x < y);
}

static void skin(void) {
  for (int i = 0; i < POINTS; i++) {
    const double *w = weights + 4 * i;
    const int *o = offsets + 4 * i;
    double m[6] = {0};
    for (int k = 0; k < 4; k++)
      for (int j = 0; j < 6; j++) m[j] += w[k] * maps[o[k] + j];
    double x = rest[2 * i], y = rest[2 * i + 1];
    out[2 * i] = m[0] * x + m[2] * y + m[4];
    out[2 * i + 1] = m[1] * x + m[3] * y + m[5];
  }
}

int main(void) {
  for (int i = 0; i < 2 * POINTS; i++) rest[i] = unit() * 1000;
  for (int i = 0; i < POINTS; i++) {
    int first = (int)((double)i / POINTS * (BONES - 4));
    double sum = 0;
    for (int k = 0; k < 4; k++) {
      offsets[4 * i + k] = (first + k) * 6;
      sum += weights[4 * i + k] = unit() + 0.01;
    }
    for (int k = 0; k < 4; k++) weights[4 * i + k] /= sum;
  }
  double check = 0;
  for (int round = 0; round < ROUNDS; round++) {
    for (int b = 0; b < BONES; b++) {
      double t = round * 0.1, a = 0.3 * sin(t + b), *m = maps + 6 * b;
      m[0] = cos(a), m[1] = sin(a), m[2] = -sin(a), m[3] = cos(a), m[4] = 3 * sin(2 * t + b), m[5] = 3 * cos(t + b);
    }
    struct timespec from, to;
    clock_gettime(CLOCK_MONOTONIC, &from);
    skin();
    clock_gettime(CLOCK_MONOTONIC, &to);
    times[round] = (to.tv_sec - from.tv_sec) * 1e3 + (to.tv_nsec - from.tv_nsec) / 1e6;
    check += out[round];
  }
  qsort(times, ROUNDS, sizeof *times, ascending);
  /* The sum keeps the work from being left out. */
  printf("%.3f\n", times[ROUNDS / 2] + 0 * check);
  return 0;
}
