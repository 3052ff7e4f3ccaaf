// SPDX-License-Identifier: GPL-3.0-or-later
// What rings is shown on the desktop: asked for on a bus of its own, as the Desktop Notifications Specification has it.
#include "ui/frame/bell.h"

#include <QDBusConnection>
#include <QProcess>
#include <QTest>
#include <QVariantMap>
#include <gtest/gtest.h>

namespace {

/// The desktop's side of it.
class Desktop : public QObject {
    Q_OBJECT
    Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Notifications")
  public:
    QStringList heard;

  public Q_SLOTS:
    uint Notify(const QString& app, uint, const QString&, const QString& summary, const QString& body,
                const QStringList&, // NOLINT(readability-identifier-naming): the specification's name
                const QVariantMap&, int) {
        heard << app << summary << body;
        return 1;
    }
};

} // namespace

TEST(Bell, TheDesktopIsAskedToShowIt) {
    QProcess bus;
    bus.start(QStringLiteral("dbus-daemon"),
              {QStringLiteral("--session"), QStringLiteral("--print-address"), QStringLiteral("--nofork")});
    ASSERT_TRUE(bus.waitForStarted()) << "dbus-daemon is one of the packages that scripts/setup installs";
    ASSERT_TRUE(bus.waitForReadyRead(10000));
    const QString address = QString::fromUtf8(bus.readLine()).trimmed();
    {
        Desktop desktop;
        QDBusConnection theirs = QDBusConnection::connectToBus(address, QStringLiteral("desktop"));
        ASSERT_TRUE(theirs.registerService(QStringLiteral("org.freedesktop.Notifications")));
        ASSERT_TRUE(theirs.registerObject(QStringLiteral("/org/freedesktop/Notifications"), &desktop,
                                          QDBusConnection::ExportAllSlots));
        const QDBusConnection ours = QDBusConnection::connectToBus(address, QStringLiteral("program"));
        pallix::ui::notify_desktop(ours, QStringLiteral("soak is over"), QStringLiteral("<Gannet>"));
        ASSERT_TRUE(QTest::qWaitFor([&desktop] { return !desktop.heard.isEmpty(); }, 10000));
        EXPECT_EQ(desktop.heard, (QStringList{QStringLiteral("Pallix"), QStringLiteral("soak is over"),
                                              QStringLiteral("&lt;Gannet&gt;")}));
    }
    QDBusConnection::disconnectFromBus(QStringLiteral("desktop"));
    QDBusConnection::disconnectFromBus(QStringLiteral("program"));
    bus.kill();
    bus.waitForFinished();
}

// Without a bus nothing happens, and nothing is waited for.
TEST(Bell, WithoutADesktopNothingHappens) {
    const QDBusConnection nobody(QStringLiteral("no such connection"));
    pallix::ui::notify_desktop(nobody, QStringLiteral("soak is over"), QStringLiteral("Gannet"));
    EXPECT_FALSE(nobody.isConnected());
}

#include "bell_test.moc"
