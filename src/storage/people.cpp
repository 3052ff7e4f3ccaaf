// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/people.h"

#include "storage/sql.h"

#include <QVariant>
#include <algorithm>
#include <array>
#include <sodium.h>

namespace pallix::storage {
namespace {

const QString people_doing = QStringLiteral("The people of the shop cannot be kept");

QSqlDatabase people_db(const QString& connection) {
    return QSqlDatabase::database(connection, false);
}

block::Role role_of(const QString& key) {
    const std::string text = key.toStdString();
    const auto* found = std::ranges::find(block::role_keys, text);
    return found == block::role_keys.end() ? block::Role::machinist
                                           : static_cast<block::Role>(found - block::role_keys.begin());
}

/// @return empty where there is no memory for it
QString hash_of(const QString& code) {
    const QByteArray bytes = code.toUtf8();
    std::array<char, crypto_pwhash_STRBYTES> hash{};
    if (sodium_init() < 0 ||
        crypto_pwhash_str(hash.data(), bytes.constData(), static_cast<unsigned long long>(bytes.size()),
                          crypto_pwhash_OPSLIMIT_INTERACTIVE, crypto_pwhash_MEMLIMIT_INTERACTIVE) != 0)
        return {};
    return QString::fromLatin1(hash.data());
}

} // namespace

BookResult<std::vector<ShopPerson>> People::all() const {
    QSqlQuery query(people_db(connection_));
    if (!query.exec(QStringLiteral("SELECT name, role, code FROM person ORDER BY name")))
        return failed(QStringLiteral("The people of the shop cannot be read"), query);
    std::vector<ShopPerson> out;
    while (query.next())
        out.push_back(
            {query.value(0).toString(), role_of(query.value(1).toString()), !query.value(2).toString().isEmpty()});
    return out;
}

std::optional<ShopPerson> People::find(const QString& name) const {
    const auto people = all();
    if (!people)
        return std::nullopt;
    const auto found = std::ranges::find(*people, name, &ShopPerson::name);
    return found == people->end() ? std::nullopt : std::optional(*found);
}

BookResult<void> People::keep(const QString& name, block::Role role) {
    if (name.trimmed().isEmpty())
        return refused(QStringLiteral("The person has no name."),
                       QStringLiteral("Give the one the shop calls them by."));
    if (auto allowed = may_(block::ShopWork::people); !allowed)
        return allowed;
    QSqlQuery query(people_db(connection_));
    query.prepare(QStringLiteral("INSERT INTO person (name, role, code) VALUES (?, ?, '') ON CONFLICT (name) DO UPDATE "
                                 "SET role = excluded.role"));
    query.addBindValue(name.trimmed());
    query.addBindValue(text(block::role_keys[static_cast<std::size_t>(role)]));
    if (!query.exec())
        return failed(people_doing, query);
    return {};
}

BookResult<void> People::set_code(const QString& name, const QString& code) {
    if (auto allowed = may_(block::ShopWork::people); !allowed)
        return allowed;
    const QString hash = code.isEmpty() ? QStringLiteral("") : hash_of(code);
    if (!code.isEmpty() && hash.isEmpty())
        return refused(QStringLiteral("The code of %1 cannot be kept: not enough memory.").arg(name),
                       QStringLiteral("Close something and try again."));
    QSqlQuery query(people_db(connection_));
    query.prepare(QStringLiteral("UPDATE person SET code = ? WHERE name = ?"));
    query.addBindValue(hash);
    query.addBindValue(name);
    if (!query.exec())
        return failed(people_doing, query);
    if (query.numRowsAffected() == 0)
        return refused(QStringLiteral("%1 is not one of the shop.").arg(name), QStringLiteral("Add the person first."));
    return {};
}

bool People::proves(const QString& name, const QString& code) const {
    QSqlQuery query(people_db(connection_));
    query.prepare(QStringLiteral("SELECT code FROM person WHERE name = ?"));
    query.addBindValue(name);
    if (!query.exec() || !query.next() || sodium_init() < 0)
        return false;
    const QByteArray hash = query.value(0).toString().toLatin1(), typed = code.toUtf8();
    return hash.isEmpty() || crypto_pwhash_str_verify(hash.constData(), typed.constData(),
                                                      static_cast<unsigned long long>(typed.size())) == 0;
}

BookResult<void> People::remove(const QString& name) {
    if (auto allowed = may_(block::ShopWork::people); !allowed)
        return allowed;
    QSqlQuery query(people_db(connection_));
    query.prepare(QStringLiteral("DELETE FROM person WHERE name = ?"));
    query.addBindValue(name);
    if (!query.exec())
        return failed(people_doing, query);
    return {};
}

BookResult<void> People::take_over(const People& other) {
    QSqlQuery from(people_db(other.connection_)), to(people_db(connection_));
    if (!from.exec(QStringLiteral("SELECT name, role, code FROM person")))
        return {}; // a book of before there were people
    to.prepare(QStringLiteral("INSERT INTO person (name, role, code) VALUES (?, ?, ?) ON CONFLICT (name) DO UPDATE SET "
                              "role = excluded.role, code = excluded.code"));
    while (from.next()) {
        for (int i = 0; i < 3; ++i)
            to.addBindValue(from.value(i));
        if (!to.exec())
            return failed(people_doing, to);
    }
    return {};
}

} // namespace pallix::storage
