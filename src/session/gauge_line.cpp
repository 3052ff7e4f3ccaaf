// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/gauge_line.h"

#include "session/key_device.h"

#include <QLocalSocket>
#include <QSerialPort>
#include <QSerialPortInfo>
#include <algorithm>
#include <sys/socket.h>
#include <unistd.h>
#include <utility>

namespace pallix::session {
namespace {

Outcome line_refused(const QString& address, const QString& what, const char* expected) {
    return tl::unexpected(block::Faults{{address.toStdString(), 0, what.toStdString(), expected}});
}

/// Whoever may make a socket of that name could send readings into somebody's ledger.
/// @return the user at the other end, where it is neither this one nor root
std::optional<uint> other_owner(const QLocalSocket& socket) {
    ucred peer{};
    socklen_t size = sizeof peer;
    const auto handle = static_cast<int>(socket.socketDescriptor());
    const bool known = ::getsockopt(handle, SOL_SOCKET, SO_PEERCRED, &peer, &size) == 0;
    return known && (peer.uid == ::geteuid() || peer.uid == 0) ? std::nullopt : std::optional<uint>(peer.uid);
}

void set_port(QSerialPort& port, const block::GaugeProfile& profile) {
    constexpr std::array parities{QSerialPort::NoParity, QSerialPort::EvenParity, QSerialPort::OddParity};
    constexpr std::array flows{QSerialPort::NoFlowControl, QSerialPort::HardwareControl, QSerialPort::SoftwareControl};
    port.setBaudRate(profile.baud);
    port.setDataBits(profile.data_bits == 7 ? QSerialPort::Data7 : QSerialPort::Data8);
    port.setStopBits(profile.stop_bits == 2 ? QSerialPort::TwoStop : QSerialPort::OneStop);
    port.setParity(parities[static_cast<std::size_t>(profile.parity)]);
    port.setFlowControl(flows[static_cast<std::size_t>(profile.flow)]);
}

} // namespace

std::vector<GaugePort> gauge_ports() {
    std::vector<GaugePort> ports;
    const auto all = QSerialPortInfo::availablePorts();
    for (const QSerialPortInfo& port : all) {
        QStringList words{port.portName()};
        if (!port.description().isEmpty())
            words << port.description();
        ports.push_back({QStringLiteral("serial:") + port.systemLocation(), words.join(QStringLiteral(" · "))});
    }
    return ports;
}

tl::expected<std::unique_ptr<GaugeLine>, block::Faults> GaugeLine::open(const QString& address,
                                                                        const block::GaugeProfile& profile) {
    std::unique_ptr<GaugeLine> line(new GaugeLine);
    const QString how = address.section(QLatin1Char(':'), 0, 0), target = address.section(QLatin1Char(':'), 1);
    Outcome done;
    if (target.isEmpty() ||
        (how != QLatin1String("local") && how != QLatin1String("serial") && how != QLatin1String("keys")))
        done = line_refused(address, tr("this is no address of a gauge"), "local:NAME, serial:PATH or keys:PATH");
    else if (how == QLatin1String("local"))
        done = line->open_socket(address, target);
    else if (how == QLatin1String("serial"))
        done = line->open_port(address, target, profile);
    else
        done = line->open_keys(address, target);
    if (done && !profile.pedal.empty())
        done = line->listen_to_pedal(QString::fromStdString(profile.pedal));
    if (!done)
        return tl::unexpected(std::move(done.error()));
    connect(line->device_.get(), &QIODevice::readyRead, line.get(), &GaugeLine::came);
    return line;
}

GaugeLine::~GaugeLine() {
    close();
}

void GaugeLine::close() {
    pedal_timer_.stop();
    for (auto* device : {&device_, &switch_})
        if (*device) {
            (*device)->disconnect(this);
            (*device)->close();
            device->release()->deleteLater(); // it may be what called
        }
}

void GaugeLine::send(const std::string& bytes) {
    device_->write(bytes.data(), static_cast<qint64>(bytes.size()));
}

Outcome GaugeLine::open_socket(const QString& address, const QString& name) {
    auto socket = std::make_unique<QLocalSocket>();
    socket->connectToServer(name);
    if (!socket->waitForConnected(2000))
        return line_refused(address, tr("nothing answers there (%1)").arg(socket->errorString()),
                            "a gauge that is switched on and listening");
    if (const auto stranger = other_owner(*socket))
        return line_refused(address, tr("a program of another user answers there (user %1)").arg(*stranger),
                            "a gauge of your own");
    connect(socket.get(), &QLocalSocket::disconnected, this, [this] { Q_EMIT lost(tr("the line went dead")); });
    device_ = std::move(socket);
    return {};
}

Outcome GaugeLine::open_port(const QString& address, const QString& path, const block::GaugeProfile& profile) {
    auto port = std::make_unique<QSerialPort>(path);
    set_port(*port, profile);
    if (!port->open(QIODevice::ReadWrite))
        return line_refused(address, tr("the port cannot be opened (%1)").arg(port->errorString()),
                            "a serial port that is there, free, and open to you (group dialout)");
    connect(port.get(), &QSerialPort::errorOccurred, this, [this](QSerialPort::SerialPortError error) {
        if (error != QSerialPort::NoError && error != QSerialPort::TimeoutError &&
            error != QSerialPort::UnsupportedOperationError && device_)
            // A dead port reports again and again: it is closed from outside its own signal.
            QTimer::singleShot(0, this, [this] { Q_EMIT lost(tr("the plug was pulled")); });
    });
    device_ = std::move(port);
    return {};
}

Outcome GaugeLine::open_keys(const QString& address, const QString& path) {
    auto keys = std::make_unique<KeyDevice>(path);
    if (!keys->open(QIODevice::ReadOnly))
        return line_refused(address, keys->errorString(), "a gauge that is a keyboard, and that may be read");
    connect(
        keys.get(), &KeyDevice::lost, this, [this] { Q_EMIT lost(tr("the plug was pulled")); }, Qt::QueuedConnection);
    device_ = std::move(keys);
    return {};
}

Outcome GaugeLine::listen_to_pedal(const QString& pedal) {
    if (const QString keys = QLatin1String(block::keys_prefix.data()); pedal.startsWith(keys)) {
        auto device = std::make_unique<KeyDevice>(pedal.mid(keys.size()));
        if (!device->open(QIODevice::ReadOnly))
            return line_refused(pedal, device->errorString(), "a foot switch that may be read");
        connect(device.get(), &KeyDevice::pressed, this, &GaugeLine::pedal);
        switch_ = std::move(device);
        return {};
    }
    constexpr std::array lines{QSerialPort::ClearToSendSignal, QSerialPort::DataSetReadySignal,
                               QSerialPort::DataCarrierDetectSignal, QSerialPort::RingIndicatorSignal};
    const auto found = std::ranges::find(block::pedal_lines, pedal.toStdString());
    if (!qobject_cast<QSerialPort*>(device_.get()) || found == block::pedal_lines.end())
        return line_refused(pedal, tr("there is no such line"), "a foot switch on a line of a serial port");
    if (auto* port = qobject_cast<QSerialPort*>(device_.get()); port->pinoutSignals(), port->error() != 0)
        return line_refused(pedal, tr("this port does not tell of its lines"), "a foot switch on a serial port");
    const int line = lines[static_cast<std::size_t>(found - block::pedal_lines.begin())];
    constexpr int look_every = 20; // ms: a foot is slower
    connect(&pedal_timer_, &QTimer::timeout, this, [this, line] { look_at_pedal(line); });
    pedal_timer_.start(look_every);
    return {};
}

void GaugeLine::look_at_pedal(int line) {
    auto* port = qobject_cast<QSerialPort*>(device_.get());
    const bool down = port && (port->pinoutSignals() & line) != 0;
    if (!std::exchange(down_, down) && down)
        Q_EMIT pedal();
}

} // namespace pallix::session
