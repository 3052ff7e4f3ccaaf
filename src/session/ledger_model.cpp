// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/ledger_model.h"

#include "block/ledger.h"
#include "wording/common/sentences.h"

#include <QFont>
#include <limits>

namespace pallix::session {

LedgerModel::LedgerModel(const Session& session, const Preferences& preferences, QObject* parent)
    : QAbstractTableModel(parent), session_(session), preferences_(preferences) {
    connect(&session, &Session::job_opened, this, &LedgerModel::reset);
    connect(&session, &Session::entries_added, this, &LedgerModel::reset); // a strike changes rows above it
    connect(&session, &Session::delivered, this, &LedgerModel::reset);
    connect(&preferences, &Preferences::unit_changed, this, &LedgerModel::reset);
    reset();
}

void LedgerModel::reset() {
    beginResetModel();
    struck_ = block::struck(session_.entries());
    at_shop_until_ = session_.at_shop_until().value_or(std::numeric_limits<std::int64_t>::max());
    endResetModel();
}

int LedgerModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(struck_.size());
}
int LedgerModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : column_count;
}

QVariant LedgerModel::data(const QModelIndex& index, int role) const {
    if (!checkIndex(index, CheckIndexOption::IndexIsValid | CheckIndexOption::ParentIsInvalid))
        return {};
    const auto row = static_cast<std::size_t>(index.row());
    const block::Entry& entry = session_.entries()[row];
    if (role == struck_role)
        return static_cast<bool>(struck_[row]);
    if (role == sequence_role)
        return static_cast<qint64>(entry.sequence);
    if (role == Qt::FontRole && struck_[row]) {
        QFont font;
        font.setStrikeOut(true);
        return font;
    }
    if (role != Qt::DisplayRole)
        return {};
    switch (index.column()) {
    case number:
        return static_cast<qint64>(entry.sequence);
    case time:
        return QString::fromStdString(entry.time).mid(0, 16).replace(QLatin1Char('T'), QLatin1Char(' '));
    case person:
        return QString::fromStdString(entry.person);
    default:
        return (entry.sequence > at_shop_until_ ? tr("not yet at the shop: ") : QString()) +
               QString::fromStdString(
                   wording::entry_sentence(entry, session_.state(), wording::LengthText(preferences_.unit())));
    }
}

QVariant LedgerModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    switch (section) {
    case number:
        return tr("no.");
    case time:
        return tr("time (UTC)");
    case person:
        return tr("who");
    default:
        return tr("what");
    }
}

} // namespace pallix::session
