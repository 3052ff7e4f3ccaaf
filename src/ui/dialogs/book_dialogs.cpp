// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/book_dialogs.h"

#include "storage/backups.h"
#include "storage/book_server.h"
#include "storage/shop_password.h"
#include "ui/dialogs/ask.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QLocale>
#include <QStringList>
#include <algorithm>
#include <vector>

namespace pallix::ui {
namespace {

using storage::BookFault;
using storage::ShopBook;
using storage::WayOut;

QString tr(const char* words) {
    return QCoreApplication::translate("book", words);
}

const char* const title = "The shop book";

void copy_out(const QString& file) {
    const QString copy =
        QFileDialog::getSaveFileName(nullptr, tr("Copy what is sound to"), file + QStringLiteral(".sound.shopbook"));
    if (copy.isEmpty())
        return;
    const auto told = ShopBook::copy_sound(file, copy);
    const QString words =
        !told ? told.error().what + QLatin1Char('\n') + told.error().way_out
              : (QStringList{tr("What is sound stands in %1.").arg(copy)} + *told).join(QStringLiteral("\n"));
    tell(nullptr, tr(title), words);
}

/// "28 Nov 2026, 15:04, before schema 9"
QString words_of(const storage::Backups::Kept& kept) {
    const QString when = QLocale().toString(kept.when.toLocalTime(), QLocale::ShortFormat);
    return kept.why.isEmpty() ? when : when + QStringLiteral(", ") + kept.why;
}

std::unique_ptr<ShopBook> restored(const QString& file, const QString& backup) {
    const auto before = storage::Backups(file).restore(backup, QDateTime::currentDateTimeUtc());
    if (!before) {
        tell(nullptr, tr(title), before.error().what + QStringLiteral("\n\n") + before.error().way_out);
        return nullptr;
    }
    if (!before->isEmpty())
        tell(nullptr, tr(title), tr("The book of before stands in %1.").arg(*before));
    return open_book(file, false);
}

/// What was typed is known until the program ends; the desktop keeps it where the person wants that.
std::unique_ptr<ShopBook> with_password(const QString& file, const QString& copies) {
    const auto password = ask_for_code(nullptr, tr(title), tr("The password for %1:").arg(file));
    if (!password || password->isEmpty())
        return nullptr;
    storage::have_password_at_hand(file, *password);
    auto book = open_book(file, false, copies);
    if (book && ask_which(nullptr, tr(title),
                          tr("The desktop can keep the password among its secrets, so that nobody is asked next time."),
                          {tr("Let the desktop keep it"), tr("Ask again next time")}) == 0)
        if (const auto kept = storage::keep_password(file, *password); !kept)
            tell(nullptr, tr(title), kept.error().what + QLatin1Char(' ') + kept.error().way_out);
    return book;
}

/// What the person wants done about a book that does not open: what the fault itself offers, the newest copy in its
/// place, another book, or nothing.
std::unique_ptr<ShopBook> after_refusal(const QString& file, const BookFault& fault, const QString& copies) {
    enum class Way { password, take_over, copy_out, restore, again, another };
    std::vector<Way> ways;
    QStringList names;
    const auto offer = [&](Way way, const QString& name) {
        ways.push_back(way);
        names << name;
    };
    if (fault.offer == WayOut::give_password)
        offer(Way::password, tr("Give the password…"));
    if (fault.offer == WayOut::take_over_lock)
        offer(Way::take_over, tr("Take it over"));
    if (fault.offer == WayOut::copy_sound)
        offer(Way::copy_out, tr("Copy what is sound…"));
    const auto kept = storage::Backups(file).kept();
    if (!kept.empty() && fault.offer != WayOut::take_over_lock)
        offer(Way::restore, tr("Put the last copy there"));
    if (storage::is_at_server(file))
        offer(Way::again, tr("Try again"));
    offer(Way::another, tr("Another shop book…"));
    QString words = fault.what + QStringLiteral("\n\n") + fault.way_out;
    if (std::ranges::find(ways, Way::restore) != ways.end())
        words += QStringLiteral("\n\n") +
                 tr("The last copy is of %1; what stands there now would be kept under another name.")
                     .arg(words_of(kept.front()));
    const int answer = ask_which(nullptr, tr(title), words, names + QStringList{tr("Leave it")});
    if (answer < 0 || answer >= static_cast<int>(ways.size()))
        return nullptr;
    switch (ways[static_cast<std::size_t>(answer)]) {
    case Way::password:
        return with_password(file, copies);
    case Way::take_over:
        return open_book(file, true);
    case Way::copy_out:
        copy_out(file);
        return nullptr;
    case Way::restore:
        return restored(file, kept.front().file);
    case Way::again:
        return open_book(file, false, copies);
    case Way::another:
        break;
    }
    const QString other =
        QFileDialog::getOpenFileName(nullptr, tr("Open another shop book"), {}, tr("Shop books (*.shopbook)"));
    return other.isEmpty() ? nullptr : open_book(other, false);
}

} // namespace

std::unique_ptr<ShopBook> open_book(const QString& file, bool take_over, const QString& copies) {
    auto book = ShopBook::open(file, take_over, copies);
    if (!book)
        return after_refusal(file, book.error(), copies);
    if ((*book)->damage().empty())
        return std::move(*book);
    QStringList words{tr("Not everything in the shop book is as it was written:"), QString()};
    for (const storage::Damage& damage : (*book)->damage())
        words << damage.words;
    words << QString()
          << tr("Going on takes what is left as it is where newest entries are gone; a job with a hole stays closed, "
                "and its sound entries can be copied out.");
    switch (ask_which(nullptr, tr(title), words.join(QLatin1Char('\n')),
                      {tr("Go on with what is there"), tr("Copy what is sound…"), tr("Leave it")})) {
    case 0:
        if (const auto accepted = (*book)->accept_loss(); !accepted)
            return after_refusal(file, accepted.error(), copies);
        return std::move(*book);
    case 1:
        book->reset(); // its lock goes, and what is copied is what the file holds
        copy_out(file);
        return nullptr;
    default:
        return nullptr;
    }
}

QString ask_for_backup(const QString& book, QWidget* parent) {
    const auto kept = storage::Backups(book).kept();
    QStringList names;
    for (const storage::Backups::Kept& one : kept)
        names << words_of(one);
    names << tr("another file…");
    const auto chosen = ask_which_of(
        parent, tr(title),
        tr("A copy is made every hour of work and at close, in the folder backups beside the book. Which one shall be "
           "put in the book's place? What stands there now is kept beside it under another name."),
        names, tr("Put it there"));
    if (chosen == static_cast<int>(kept.size()))
        return QFileDialog::getOpenFileName(parent, tr("A copy of the shop book"), {}, tr("Shop books (*.shopbook)"));
    return chosen ? kept[static_cast<std::size_t>(*chosen)].file : QString();
}

} // namespace pallix::ui
