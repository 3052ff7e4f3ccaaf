// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/one_window.h"

#include <QCryptographicHash>
#include <QDataStream>
#include <QFileInfo>
#include <QLocalServer>
#include <QLocalSocket>
#include <QStandardPaths>

namespace pallix::session {
namespace {

constexpr int patience = 2000; // ms: a window that is busy for longer is left alone
constexpr qint64 most = 1 << 20;
constexpr char taken = '+';

/// In the folder that is this user's alone, one for each book.
QString address_of(const QString& book) {
    const QFileInfo file(book);
    const QString name = file.exists() ? file.canonicalFilePath() : file.absoluteFilePath();
    const QByteArray digest = QCryptographicHash::hash(name.toUtf8(), QCryptographicHash::Sha256).toHex().left(16);
    return QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation) + QStringLiteral("/pallix-") +
           QString::fromLatin1(digest);
}

} // namespace

bool OneWindow::hand_over(const QString& book, const QStringList& files) {
    QLocalSocket socket;
    socket.connectToServer(address_of(book));
    if (!socket.waitForConnected(patience))
        return false;
    QStringList whole;
    for (const QString& file : files)
        whole << QFileInfo(file).absoluteFilePath();
    QByteArray said;
    QDataStream words(&said, QIODevice::WriteOnly);
    words << whole;
    QDataStream out(&socket);
    out << said;
    if (!socket.waitForBytesWritten(patience) || !socket.waitForReadyRead(patience))
        return false;
    return socket.readAll().startsWith(taken);
}

OneWindow::OneWindow(const QString& book, QObject* parent)
    : QObject(parent), server_(std::make_unique<QLocalServer>()) {
    server_->setSocketOptions(QLocalServer::UserAccessOption);
    connect(server_.get(), &QLocalServer::newConnection, this, &OneWindow::take);
    const QString address = address_of(book);
    if (!server_->listen(address) && server_->serverError() == QAbstractSocket::AddressInUseError) {
        QLocalServer::removeServer(address); // the book is locked by this process: whoever listened there is gone
        server_->listen(address);
    }
}

OneWindow::~OneWindow() = default;

void OneWindow::take() {
    while (QLocalSocket* socket = server_->nextPendingConnection()) {
        connect(socket, &QLocalSocket::disconnected, socket, &QObject::deleteLater);
        connect(socket, &QLocalSocket::readyRead, this, [this, socket] {
            QDataStream in(socket);
            in.startTransaction();
            QByteArray said;
            in >> said;
            if (socket->bytesAvailable() > most || said.size() > most)
                return socket->abort();
            if (!in.commitTransaction())
                return; // the rest is on its way
            QStringList files;
            QDataStream words(said);
            words >> files;
            socket->write(&taken, 1);
            socket->flush();
            socket->disconnectFromServer();
            Q_EMIT wanted(files);
        });
    }
}

} // namespace pallix::session
