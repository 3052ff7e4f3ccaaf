// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/book_dialogs.h"

#include "ui/dialogs/ask.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QStringList>

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

/// What the person wants done about a book that does not open.
std::unique_ptr<ShopBook> after_refusal(const QString& file, const BookFault& fault) {
    const QString words = fault.what + QStringLiteral("\n\n") + fault.way_out;
    switch (fault.offer) {
    case WayOut::take_over_lock:
        return ask_which(nullptr, tr(title), words, {tr("Take it over"), tr("Leave it")}) == 0 ? open_book(file, true)
                                                                                               : nullptr;
    case WayOut::copy_sound:
        if (ask_which(nullptr, tr(title), words, {tr("Copy what is sound…"), tr("Leave it")}) == 0)
            copy_out(file);
        return nullptr;
    case WayOut::none:
        break;
    }
    tell(nullptr, tr(title), words);
    return nullptr;
}

} // namespace

std::unique_ptr<ShopBook> open_book(const QString& file, bool take_over) {
    auto book = ShopBook::open(file, take_over);
    if (!book)
        return after_refusal(file, book.error());
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
            return after_refusal(file, accepted.error());
        return std::move(*book);
    case 1:
        book->reset(); // its lock goes, and what is copied is what the file holds
        copy_out(file);
        return nullptr;
    default:
        return nullptr;
    }
}

} // namespace pallix::ui
