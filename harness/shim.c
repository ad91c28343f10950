/* Lies to a process about its machine: how late it is, and whether its disk keeps what it is told to keep.
 *
 * Loaded before the C library. What to say stands in a file that SHIM names and that may change while the
 * process runs: two numbers of 64 bits, by how many seconds the clock is ahead, and whether syncs fail.
 * Only Python's processes are told another time: they wait by the monotonic clock, which nobody sets.
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/time.h>
#include <time.h>
#include <unistd.h>

struct lies {
    int64_t ahead_s;
    int64_t syncs_fail;
};

static const struct lies none;
static const volatile struct lies *lies = &none;
static int tells_time;

__attribute__((constructor)) static void begin(void)
{
    const char *path = getenv("SHIM");
    int file = path ? open(path, O_RDONLY | O_CLOEXEC) : -1;
    if (file < 0)
        return;
    void *found = mmap(NULL, sizeof(struct lies), PROT_READ, MAP_SHARED, file, 0);
    close(file);
    if (found != MAP_FAILED)
        lies = found;
    tells_time = strncmp(program_invocation_short_name, "python", 6) == 0;
}

int clock_gettime(clockid_t id, struct timespec *at)
{
    static int (*real)(clockid_t, struct timespec *);
    if (!real)
        real = (int (*)(clockid_t, struct timespec *))dlsym(RTLD_NEXT, "clock_gettime");
    int failed = real(id, at);
    if (!failed && tells_time && (id == CLOCK_REALTIME || id == CLOCK_REALTIME_COARSE))
        at->tv_sec += lies->ahead_s;
    return failed;
}

int gettimeofday(struct timeval *restrict at, void *restrict zone)
{
    struct timespec now;
    (void)zone;
    if (clock_gettime(CLOCK_REALTIME, &now))
        return -1;
    at->tv_sec = now.tv_sec;
    at->tv_usec = now.tv_nsec / 1000;
    return 0;
}

time_t time(time_t *at)
{
    struct timespec now;
    if (clock_gettime(CLOCK_REALTIME, &now))
        return -1;
    if (at)
        *at = now.tv_sec;
    return now.tv_sec;
}

static int sync_file(const char *name, int file)
{
    if (lies->syncs_fail) {
        errno = EIO;
        return -1;
    }
    return ((int (*)(int))dlsym(RTLD_NEXT, name))(file);
}

int fsync(int file)
{
    return sync_file("fsync", file);
}

int fdatasync(int file)
{
    return sync_file("fdatasync", file);
}
