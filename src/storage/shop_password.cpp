// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/shop_password.h"

#include <QHash>
#include <QMutex>
#include <QMutexLocker>
#include <QProcess>
#include <QUrl>

namespace pallix::storage {
namespace {

/// Of all threads: each opens connections of its own.
struct AtHand {
    QMutex mutex;
    QHash<QString, QString> passwords; ///< by whose they are and where
};

AtHand& at_hand() {
    static AtHand all;
    return all;
}

constexpr int libpq_port = 5432;

QString whose(const QString& address) {
    const QUrl url(address);
    return QStringLiteral("%1@%2:%3").arg(url.userName(), url.host()).arg(url.port(libpq_port));
}

/// What the service finds it by. All books of a server have one password.
QStringList attributes(const QString& address) {
    const QUrl url(address);
    return {QStringLiteral("application"), QStringLiteral("pallix"),
            QStringLiteral("user"),        url.userName(),
            QStringLiteral("host"),        url.host(),
            QStringLiteral("port"),        QString::number(url.port(libpq_port))};
}

/// @param said to it, on its standard input
/// @return what it said; nothing where it is not there, or could not do it
std::optional<QByteArray> secret_tool(const QStringList& words, const QByteArray& said = {}) {
    constexpr int patience = 120000; // ms: somebody may be typing what unlocks it
    QProcess tool;
    tool.setProcessChannelMode(QProcess::SeparateChannels);
    tool.start(QStringLiteral("secret-tool"), words);
    if (!tool.waitForStarted())
        return std::nullopt;
    tool.write(said);
    tool.closeWriteChannel();
    if (!tool.waitForFinished(patience) || tool.exitStatus() != QProcess::NormalExit || tool.exitCode() != 0)
        return std::nullopt;
    return tool.readAllStandardOutput();
}

} // namespace

std::optional<QString> password_at_hand(const QString& address) {
    const QMutexLocker lock(&at_hand().mutex);
    const auto found = at_hand().passwords.constFind(whose(address));
    return found == at_hand().passwords.constEnd() ? std::nullopt : std::optional(*found);
}

void have_password_at_hand(const QString& address, const QString& password) {
    const QMutexLocker lock(&at_hand().mutex);
    at_hand().passwords[whose(address)] = password;
}

std::optional<QString> kept_password(const QString& address) {
    const auto found = secret_tool(QStringList{QStringLiteral("lookup")} + attributes(address));
    return found && !found->isEmpty() ? std::optional(QString::fromUtf8(*found)) : std::nullopt;
}

BookResult<void> keep_password(const QString& address, const QString& password) {
    const QString label = QStringLiteral("--label=Shop book of %1").arg(whose(address));
    if (!secret_tool(QStringList{QStringLiteral("store"), label} + attributes(address), password.toUtf8()))
        return refused(
            QStringLiteral("The desktop has not kept the password."),
            QStringLiteral("It needs a secret service and the package libsecret-tools; or put the password in "
                           "the file .pgpass of your home folder. Until the program ends it is known."));
    return {};
}

} // namespace pallix::storage
