/* Memory to memory over loopback TCP: a process that sends and one that receives, a
   thread a stream, with large buffers, and nothing else.
   Arguments: streams, seconds. Prints the bytes a second that arrived after the first 0.2 s. */
#include <arpa/inet.h>
#include <pthread.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <signal.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/socket.h>
#include <netinet/tcp.h>
#include <time.h>
#include <unistd.h>

#define BUFFER (1 << 20)
static atomic_llong *arrived;

static void *drain(void *given) {
    char *buffer = malloc(BUFFER);
    for (ssize_t got; (got = recv((int)(long)given, buffer, BUFFER, 0)) > 0;) *arrived += got;
    return NULL;
}

static void *fill(void *given) {
    char *buffer = malloc(BUFFER);
    memset(buffer, 0x5a, BUFFER);
    while (send((int)(long)given, buffer, BUFFER, MSG_NOSIGNAL) > 0) {}
    return NULL;
}

int main(int count, char **arguments) {
    int streams = count > 1 ? atoi(arguments[1]) : 1;
    double seconds = count > 2 ? atof(arguments[2]) : 1.0;
    int listening = socket(AF_INET, SOCK_STREAM, 0);
    struct sockaddr_in place = {.sin_family = AF_INET, .sin_addr.s_addr = htonl(INADDR_LOOPBACK)};
    socklen_t size = sizeof place;
    if (bind(listening, (struct sockaddr *)&place, size) || listen(listening, streams)) return 1;
    getsockname(listening, (struct sockaddr *)&place, &size);
    arrived = mmap(NULL, sizeof *arrived, PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
    int receives = fork() == 0;
    if (receives) prctl(PR_SET_PDEATHSIG, SIGKILL);
    for (int n = 0; n < streams; n++) {
        pthread_t thread;
        int connection = receives ? accept(listening, NULL, NULL) : socket(AF_INET, SOCK_STREAM, 0);
        setsockopt(connection, IPPROTO_TCP, TCP_CONGESTION, "cubic", 5);
        if (!receives && connect(connection, (struct sockaddr *)&place, size)) return 1;
        pthread_create(&thread, NULL, receives ? drain : fill, (void *)(long)connection);
    }
    if (receives) pause();
    usleep(200000);
    struct timespec begun, now;
    clock_gettime(CLOCK_MONOTONIC, &begun);
    long long before = *arrived;
    usleep((useconds_t)(seconds * 1e6));
    long long after = *arrived;
    clock_gettime(CLOCK_MONOTONIC, &now);
    printf("%f\n", (after - before) / (now.tv_sec - begun.tv_sec + (now.tv_nsec - begun.tv_nsec) / 1e9));
    fflush(stdout);
    _exit(0);
}
