/* The least that a program must do to write, flush, read back and compare a file past the host's memory.
 *
 * storage_reference FILE MEGABYTES: prints the seconds of writing and flushing, of reading alone, and of reading and
 * comparing together. Every 4 KiB of the block is stamped with its offset, as the engine does.
 */
#define _GNU_SOURCE
#include <fcntl.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <time.h>
#include <unistd.h>

enum { BLOCK = 1 << 20, PITCH = 4096, HUGE_PAGE = 2 << 20 };

static double now(void) {
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return t.tv_sec + t.tv_nsec * 1e-9;
}

static void stamp(uint8_t *block, uint64_t offset) {
    for (uint64_t at = 0; at < BLOCK; at += PITCH) *(uint64_t *)(block + at) = offset + at;
}

int main(int count, char **words) {
    if (count != 3) return 2;
    uint64_t size = strtoull(words[2], 0, 10) << 20;
    uint8_t *block, *back;
    if (posix_memalign((void **)&block, HUGE_PAGE, HUGE_PAGE) || posix_memalign((void **)&back, HUGE_PAGE, HUGE_PAGE))
        return 3;
    madvise(block, HUGE_PAGE, MADV_HUGEPAGE);
    madvise(back, HUGE_PAGE, MADV_HUGEPAGE);
    for (int at = 0; at < BLOCK; at++) block[at] = (uint8_t)rand();
    int file = open(words[1], O_RDWR | O_CREAT | O_TRUNC | O_DIRECT, 0600);
    if (file < 0) return 4;
    double begun = now();
    for (uint64_t at = 0; at < size; at += BLOCK) {
        stamp(block, at);
        if (pwrite(file, block, BLOCK, at) != BLOCK) return 5;
    }
    if (fsync(file)) return 6;
    double written = now(), reading = 0;
    for (uint64_t at = 0; at < size; at += BLOCK) {
        double started = now();
        if (pread(file, back, BLOCK, at) != BLOCK) return 7;
        reading += now() - started;
        stamp(block, at);
        if (memcmp(block, back, BLOCK)) return 8;
    }
    printf("%.9f %.9f %.9f\n", written - begun, reading, now() - written);
    unlink(words[1]);
    return 0;
}
