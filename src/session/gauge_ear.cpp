// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/gauge_ear.h"

#include <utility>

namespace pallix::session {

GaugeEar::GaugeEar(QObject* parent) : QObject(parent) {
    constexpr int break_of = 150; // ms: a person presses slower
    break_.setSingleShot(true);
    break_.setInterval(break_of);
    connect(&break_, &QTimer::timeout, this, [this] {
        sent_.push_back(std::exchange(coming_, {}));
        Q_EMIT heard();
    });
}

Outcome GaugeEar::listen(const QString& address, const block::GaugeProfile& profile) {
    stop();
    auto line = GaugeLine::open(address, profile);
    if (!line)
        return tl::unexpected(std::move(line.error()));
    line_ = std::move(*line);
    sent_.clear();
    coming_.clear();
    connect(line_.get(), &GaugeLine::came, this, [this] {
        constexpr std::size_t most = 4000; // of one that never stops
        coming_ += line_->read_all().toStdString();
        if (coming_.size() > most)
            coming_.erase(0, coming_.size() - most);
        else
            break_.start();
    });
    connect(line_.get(), &GaugeLine::lost, this, [this](const QString& why) {
        stop();
        Q_EMIT lost(why);
    });
    return {};
}

void GaugeEar::stop() {
    break_.stop();
    if (line_) {
        line_->disconnect(this);
        line_->close();
        line_.release()->deleteLater();
    }
}

void GaugeEar::send(const std::string& bytes) {
    if (line_)
        line_->send(bytes);
}

} // namespace pallix::session
