/* What a process sees of the clock and how slow its disk is, by two numbers in a file: seconds that the time of day is
   off, and seconds that each flush to the disk takes longer. Loaded before the C library (LD_PRELOAD). */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <fcntl.h>
#include <stdlib.h>
#include <sys/mman.h>
#include <sys/time.h>
#include <time.h>
#include <unistd.h>

static volatile double *numbers;

__attribute__((constructor)) static void begin(void) {
  const char *path = getenv("EVENMARK_FAULTS");
  int file = path ? open(path, O_RDONLY | O_CLOEXEC) : -1;
  if (file < 0) return;
  void *seen = mmap(NULL, 2 * sizeof(double), PROT_READ, MAP_SHARED, file, 0);
  if (seen != MAP_FAILED) numbers = seen;
  close(file);
}

int clock_gettime(clockid_t clock, struct timespec *at) {
  static int (*real)(clockid_t, struct timespec *);
  if (!real) real = dlsym(RTLD_NEXT, "clock_gettime");
  int done = real(clock, at);
  if (!done && numbers && clock == CLOCK_REALTIME) at->tv_sec += (time_t)numbers[0];
  return done;
}
int gettimeofday(struct timeval *restrict at, void *restrict zone) {
  struct timespec now;
  (void)zone;
  clock_gettime(CLOCK_REALTIME, &now);
  at->tv_sec = now.tv_sec;
  at->tv_usec = now.tv_nsec / 1000;
  return 0;
}
time_t time(time_t *at) {
  struct timespec now;
  clock_gettime(CLOCK_REALTIME, &now);
  if (at) *at = now.tv_sec;
  return now.tv_sec;
}
static void slowly(void) {
  if (numbers && numbers[1] > 0) usleep((useconds_t)(numbers[1] * 1e6));
}
int fsync(int file) {
  static int (*real)(int);
  if (!real) real = dlsym(RTLD_NEXT, "fsync");
  slowly();
  return real(file);
}
int fdatasync(int file) {
  static int (*real)(int);
  if (!real) real = dlsym(RTLD_NEXT, "fdatasync");
  slowly();
  return real(file);
}
