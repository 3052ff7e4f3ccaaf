// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/key_device.h"

#include <QDir>
#include <QFile>
#include <QSocketNotifier>
#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <libevdev/libevdev.h>
#include <unistd.h>
#include <utility>

namespace pallix::session {
namespace {

/// An input device, opened without waiting.
/// @return whether it is one that has keys; errno says why not
bool open_device(const QString& path, int& handle, libevdev*& device) {
    handle = ::open(QFile::encodeName(path).constData(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
    if (handle < 0)
        return false;
    if (const int fault = libevdev_new_from_fd(handle, &device); fault < 0) {
        errno = -fault;
        return false;
    }
    errno = ENODEV;
    return libevdev_has_event_type(device, EV_KEY) != 0;
}

void close_device(int& handle, libevdev*& device) {
    if (device)
        libevdev_free(std::exchange(device, nullptr));
    if (handle >= 0)
        ::close(std::exchange(handle, -1));
}

/// Hands on every event that waits.
/// @return false where the device is gone
template <class Take>
bool take_events(libevdev* device, const Take& take) {
    input_event event{};
    int status = LIBEVDEV_READ_STATUS_SUCCESS;
    while (status == LIBEVDEV_READ_STATUS_SUCCESS || status == LIBEVDEV_READ_STATUS_SYNC) {
        const bool lagged = status == LIBEVDEV_READ_STATUS_SYNC;
        status = libevdev_next_event(device, lagged ? LIBEVDEV_READ_FLAG_SYNC : LIBEVDEV_READ_FLAG_NORMAL, &event);
        if (status >= 0 && event.type == EV_KEY)
            take(event.code, event.value);
    }
    return status == -EAGAIN;
}

} // namespace

KeyDevice::KeyDevice(QString path, QObject* parent) : QIODevice(parent), path_(std::move(path)) {}

KeyDevice::~KeyDevice() {
    close_device(handle_, device_);
}

bool KeyDevice::open(OpenMode mode) {
    if (!open_device(path_, handle_, device_) || libevdev_grab(device_, LIBEVDEV_GRAB) < 0) {
        setErrorString(errno == EACCES ? tr("this user may not read it; it can be used as a keyboard all the same")
                                       : QString::fromLocal8Bit(std::strerror(errno)));
        close_device(handle_, device_);
        return false;
    }
    notifier_ = std::make_unique<QSocketNotifier>(handle_, QSocketNotifier::Read);
    connect(notifier_.get(), &QSocketNotifier::activated, this, &KeyDevice::read_events);
    return QIODevice::open(mode);
}

void KeyDevice::close() {
    notifier_.reset();
    close_device(handle_, device_);
    QIODevice::close();
}

void KeyDevice::read_events() {
    bool any = false;
    const qsizetype before = typed_.size();
    const bool there = take_events(device_, [&](int code, int value) {
        any = any || value == 1;
        if (const auto letter = typing_.feed(code, value))
            typed_ += *letter;
    });
    if (typed_.size() > before)
        Q_EMIT readyRead();
    if (any)
        Q_EMIT pressed();
    if (!there && notifier_) {
        notifier_->setEnabled(false);
        Q_EMIT lost();
    }
}

qint64 KeyDevice::readData(char* data, qint64 most) {
    const qint64 count = std::min<qint64>(most, typed_.size());
    std::copy_n(typed_.constData(), count, data);
    typed_.remove(0, count);
    return count;
}

struct KeyWatch::Watched {
    int handle = -1;
    libevdev* device = nullptr;
    std::unique_ptr<QSocketNotifier> notifier;
    ~Watched() {
        notifier.reset();
        close_device(handle, device);
    }
};

KeyWatch::KeyWatch(QObject* parent) : QObject(parent) {
    const QDir inputs(QStringLiteral("/dev/input"));
    const auto files = inputs.entryList({QStringLiteral("event*")}, QDir::System | QDir::Files);
    for (const QString& file : files) {
        const QString path = inputs.filePath(file);
        auto watched = std::make_unique<Watched>();
        if (!open_device(path, watched->handle, watched->device)) {
            unreadable_ += errno == EACCES ? 1 : 0;
            continue;
        }
        Watched* const one = watched.get();
        one->notifier = std::make_unique<QSocketNotifier>(one->handle, QSocketNotifier::Read);
        connect(one->notifier.get(), &QSocketNotifier::activated, this, [this, one, path] {
            bool any = false;
            if (!take_events(one->device, [&any](int, int value) { any = any || value == 1; }))
                one->notifier->setEnabled(false);
            if (any)
                Q_EMIT pressed(path, QString::fromUtf8(libevdev_get_name(one->device)));
        });
        devices_.push_back(std::move(watched));
    }
}

KeyWatch::~KeyWatch() = default;

} // namespace pallix::session
