// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/frame/bell.h"

#include "session/wall_time.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/spoken.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>
#include <QVariantMap>

namespace pallix::ui {

Bell::Bell(Context context, QWidget* parent)
    : QWidget(parent), context_(context), words_(new PlainLabel(this)), open_(new QPushButton(tr("To that job"), this)),
      heard_(new QPushButton(tr("Heard"), this)) {
    setObjectName(QStringLiteral("bell"));
    words_->setObjectName(QStringLiteral("bell-words"));
    set_announced(words_);
    set_type(words_, Type::number, true);
    words_->setWordWrap(true);
    open_->setObjectName(QStringLiteral("bell-open"));
    heard_->setObjectName(QStringLiteral("bell-heard"));
    heard_->setToolTip(tr("It was heard (Ctrl+Shift+H)"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(24, 8, 16, 8);
    row->addWidget(words_, 1);
    row->addWidget(open_);
    row->addWidget(heard_);
    connect(heard_, &QPushButton::clicked, this, &Bell::heard);
    connect(open_, &QPushButton::clicked, this, [this] {
        const auto job = rung_.front().job;
        heard();
        Q_EMIT job_wanted(job);
    });
    hide();
}

void Bell::ring(storage::JobId job, const QString& title, const QString& what, const QString& until, bool missed) {
    const QString words = (missed ? tr("%1: %2 was over at %3, while nobody was here") : tr("%1: %2 is over (%3)"))
                              .arg(title, what, session::wall_time(until.toStdString()));
    rung_.push_back({job, words});
    notify_desktop(QDBusConnection::sessionBus(), tr("Pallix: %1 is over").arg(what), words);
    show_first();
}

void Bell::heard() {
    if (!rung_.empty())
        rung_.erase(rung_.begin());
    show_first();
}

void Bell::show_first() {
    setVisible(!rung_.empty());
    if (rung_.empty())
        return;
    words_->setText(rung_.size() > 1 ? tr("%1  ·  and %2 more").arg(rung_.front().words).arg(rung_.size() - 1)
                                     : rung_.front().words);
    open_->setVisible(context_.session.job() != rung_.front().job);
    QPalette p = words_->palette();
    p.setColor(QPalette::WindowText, context_.palette().on_accent);
    words_->setPalette(p);
}

void Bell::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), context_.palette().accent);
}

void notify_desktop(const QDBusConnection& bus, const QString& title, const QString& words) {
    if (!bus.isConnected())
        return;
    const QString service = QStringLiteral("org.freedesktop.Notifications");
    QDBusMessage call = QDBusMessage::createMethodCall(service, QStringLiteral("/org/freedesktop/Notifications"),
                                                       service, QStringLiteral("Notify"));
    constexpr uint replaces_none = 0;
    constexpr int as_the_desktop_has_it = -1;
    call.setArguments({QStringLiteral("Pallix"), replaces_none, QStringLiteral("pallix"), title, words.toHtmlEscaped(),
                       QStringList(), QVariantMap(), as_the_desktop_has_it});
    bus.send(call);
}

} // namespace pallix::ui
