// SPDX-License-Identifier: GPL-3.0-or-later
// A disk that fails, laid under a program by LD_PRELOAD: after so many bytes written to files of a folder it is full,
// or does not answer any more. PALLIX_DISK is the folder, PALLIX_DISK_ROOM the bytes, PALLIX_DISK_GOES "full" or
// "gone".
#include <atomic>
#include <cerrno>
#include <climits>
#include <cstdarg>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <dlfcn.h>
#include <fcntl.h>
#include <string>
#include <sys/types.h>
#include <unistd.h>

namespace {

std::atomic<long long> written{0};

long long room() {
    const char* bytes = std::getenv("PALLIX_DISK_ROOM");
    return bytes ? std::atoll(bytes) : LLONG_MAX;
}
bool goes_away() {
    const char* how = std::getenv("PALLIX_DISK_GOES");
    return how && std::strcmp(how, "gone") == 0;
}
bool is_over() {
    return written.load() > room();
}

bool on_that_disk(int handle) {
    const char* folder = std::getenv("PALLIX_DISK");
    if (!folder)
        return false;
    char name[PATH_MAX + 1] = {};
    const std::string link = "/proc/self/fd/" + std::to_string(handle);
    return readlink(link.c_str(), name, PATH_MAX) > 0 && std::strncmp(name, folder, std::strlen(folder)) == 0;
}

template <class Function>
Function real(const char* name) {
    return reinterpret_cast<Function>(dlsym(RTLD_NEXT, name));
}

/// Counts what is written. @return whether the disk refuses it
bool refuses(int handle, size_t size) {
    if (!on_that_disk(handle))
        return false;
    written += static_cast<long long>(size);
    if (!is_over())
        return false;
    errno = goes_away() ? EIO : ENOSPC;
    return true;
}
bool is_gone(int handle) {
    if (!goes_away() || !is_over() || !on_that_disk(handle))
        return false;
    errno = EIO;
    return true;
}

} // namespace

extern "C" {
ssize_t write(int handle, const void* bytes, size_t size) {
    static const auto next = real<ssize_t (*)(int, const void*, size_t)>("write");
    return refuses(handle, size) ? -1 : next(handle, bytes, size);
}
ssize_t pwrite64(int handle, const void* bytes, size_t size, off64_t at) {
    static const auto next = real<ssize_t (*)(int, const void*, size_t, off64_t)>("pwrite64");
    return refuses(handle, size) ? -1 : next(handle, bytes, size, at);
}
ssize_t pwrite(int handle, const void* bytes, size_t size, off_t at) {
    static const auto next = real<ssize_t (*)(int, const void*, size_t, off_t)>("pwrite");
    return refuses(handle, size) ? -1 : next(handle, bytes, size, at);
}
ssize_t pread64(int handle, void* bytes, size_t size, off64_t at) {
    static const auto next = real<ssize_t (*)(int, void*, size_t, off64_t)>("pread64");
    return is_gone(handle) ? -1 : next(handle, bytes, size, at);
}
int fsync(int handle) {
    static const auto next = real<int (*)(int)>("fsync");
    return is_gone(handle) ? -1 : next(handle);
}
int fdatasync(int handle) {
    static const auto next = real<int (*)(int)>("fdatasync");
    return is_gone(handle) ? -1 : next(handle);
}
}
