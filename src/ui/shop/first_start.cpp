// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/shop/first_start.h"

#include "reporting/paper.h"
#include "ui/frame/page_buttons.h"
#include "ui/frame/plain_label.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace pallix::ui {

FirstStart::FirstStart(Context context, QWidget* parent) : QWidget(parent), context_(context) {
    auto* column = new QVBoxLayout(this);
    column->setSpacing(10);
    column->addStretch(1);
    const auto way = [&](const char* name, const QString& words, const QString& more, void (FirstStart::*chosen)()) {
        auto* button = new QPushButton(words, this);
        button->setObjectName(QString::fromLatin1(name));
        button->setAccessibleDescription(more);
        fix_size(button, 260, 0);
        connect(button, &QPushButton::clicked, this, chosen);
        auto* label = new PlainLabel(more, this);
        label->setWordWrap(true);
        set_type(label, Type::text);
        auto* row = new QHBoxLayout;
        row->setSpacing(18);
        row->addWidget(button);
        row->addWidget(label, 1);
        column->addLayout(row);
    };
    way("first-engine", tr("&Describe your engine"),
        tr("Some forty figures from its sheet; the block is drawn as you type. Then every block of it is a job "
           "(Ctrl+N)."),
        &FirstStart::engine_wanted);
    way("first-file", tr("&Open a file"),
        tr("A blueprint, a recipe, a drawing or a whole job from elsewhere. Dropping it on this window does as well."),
        &FirstStart::file_wanted);
    way("first-harbour", tr("Try the &harbour workshop"),
        tr("A shop full of jobs, in a window of its own: nothing you do there touches this book."),
        &FirstStart::harbour_wanted);
    way("first-practice", tr("&Practise"),
        tr("A block that is not there, with somebody beside you: from the first reading to the reckoning in ten "
           "minutes."),
        &FirstStart::practice_wanted);
    auto* units = new PageButtons({tr("mm"), tr("inches")}, tr("Ctrl+U changes it at any time"), this);
    units->setObjectName(QStringLiteral("first-unit"));
    units->press(context_.preferences.unit() == block::Unit::inch ? 1 : 0);
    connect(units, &PageButtons::chosen, this,
            [this](int unit) { context_.preferences.set_unit(unit == 1 ? block::Unit::inch : block::Unit::mm); });
    connect(&context_.preferences, &session::Preferences::unit_changed, units,
            [this, units] { units->press(context_.preferences.unit() == block::Unit::inch ? 1 : 0); });
    auto* papers = new PageButtons({tr("A4"), tr("Letter")}, tr("What papers are printed on"), this);
    papers->setObjectName(QStringLiteral("first-paper"));
    papers->press(reporting::paper_named(context_.preferences.paper()).id() == QPageSize::Letter ? 1 : 0);
    connect(papers, &PageButtons::chosen, this, [this](int paper) {
        context_.preferences.set_paper(paper == 1 ? QStringLiteral("letter") : QStringLiteral("a4"));
    });
    auto* here = new QHBoxLayout;
    here->setSpacing(12);
    auto* words = new PlainLabel(tr("As is usual where this machine stands:"), this);
    set_type(words, Type::text);
    here->addWidget(words);
    here->addWidget(units);
    here->addWidget(papers);
    here->addStretch();
    column->addSpacing(20);
    column->addLayout(here);
    column->addStretch(2);
}

} // namespace pallix::ui
