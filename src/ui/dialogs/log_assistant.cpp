// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/log_assistant.h"

#include "ui/dialogs/fault_list.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

LogAssistant::LogAssistant(Context context, block::NamedText log, QWidget* parent)
    : QDialog(parent), context_(context), log_(std::move(log)), look_{block::look_at_log(log_.text, log_.file)},
      words_(new PlainLabel(this)),
      table_(new PlainTable(QStringLiteral("log-rows"), tr("the first rows of the log"), this)), asks_(new QFormLayout),
      unit_(new QComboBox(this)), name_(new QLineEdit(this)), faults_(new FaultList(context, this)) {
    setWindowTitle(tr("A log of another form: %1").arg(qt(log_.file)));
    build();
    try_what_is_kept();
    show_asks();
    show_look();
}

void LogAssistant::build() {
    setMinimumSize(860, 520);
    words_->setObjectName(QStringLiteral("log-understood"));
    words_->setWordWrap(true);
    set_type(words_, Type::text);
    unit_->setObjectName(QStringLiteral("log-unit"));
    unit_->addItems({tr("as it says; mm where it does not"), tr("mm"), tr("inch")});
    name_->setObjectName(QStringLiteral("log-mapping-name"));
    name_->setPlaceholderText(tr("the probe or the program it comes from; empty: not kept"));
    asks_->setVerticalSpacing(8);
    asks_->addRow(tr("&Unit"), unit_);
    asks_->addRow(tr("&Keep how it is read as"), name_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    take_ = buttons->button(QDialogButtonBox::Ok);
    take_->setText(tr("Read it so"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->addWidget(table_, 1);
    column->addWidget(words_);
    column->addLayout(asks_);
    column->addWidget(faults_);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &LogAssistant::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(unit_, &QComboBox::currentIndexChanged, this, &LogAssistant::take_asks);
}

/// The first way of reading logs that this shop has kept and that leaves nothing open.
void LogAssistant::try_what_is_kept() {
    if (look_.converted)
        return;
    const auto kept = context_.session.book().engines().mappings();
    if (!kept)
        return;
    for (const auto& [name, text] : *kept) {
        const auto mapping = block::read_mapping(text, name.toStdString());
        if (!mapping)
            continue;
        auto look = block::look_at_log(log_.text, log_.file, *mapping);
        if (!look.converted)
            continue;
        mapping_ = *mapping;
        look_ = std::move(look);
        name_->setText(name);
        return;
    }
}

/// Fields for what is not known: columns first, then names.
void LogAssistant::show_asks() {
    if (look_.converted)
        return;
    const auto known = [&](const char* ours) {
        return std::ranges::none_of(look_.converted.error(), [&](const block::Fault& f) {
            return f.what == std::string("no column is known as ") + ours;
        });
    };
    for (const char* ours : {"feature", "x", "y", "z"}) {
        if (known(ours) || columns_.contains(ours))
            continue;
        auto* choice = new QComboBox(this);
        choice->setObjectName(QStringLiteral("log-column-") + QLatin1String(ours));
        choice->addItem(tr("which column?"), QString());
        for (const std::string& heading : look_.headings) {
            choice->addItem(qt(heading), qt(heading));
            if (ours[0] != 'f')
                choice->addItem(tr("%1, turned round").arg(qt(heading)), QStringLiteral("-") + qt(heading));
        }
        connect(choice, &QComboBox::currentIndexChanged, this, &LogAssistant::take_asks);
        asks_->addRow(qt(ours), choice);
        columns_[ours] = choice;
    }
    constexpr std::size_t most = 8;
    for (const std::string& pattern : look_.strangers) {
        if (features_.contains(pattern) || features_.size() >= most)
            continue;
        auto* field = new QLineEdit(this);
        field->setObjectName(QStringLiteral("log-feature-%1").arg(features_.size()));
        field->setPlaceholderText(tr("what it is: main.{n}, bore.R.{n}, deck.L …"));
        connect(field, &QLineEdit::editingFinished, this, &LogAssistant::take_asks);
        asks_->addRow(qt(pattern), field);
        features_[pattern] = field;
    }
}

void LogAssistant::take_asks() {
    mapping_.unit.reset();
    if (unit_->currentIndex() > 0)
        mapping_.unit = unit_->currentIndex() == 1 ? block::Unit::mm : block::Unit::inch;
    for (const auto& [ours, choice] : columns_)
        if (const QString theirs = choice->currentData().toString(); !theirs.isEmpty())
            mapping_.columns[ours] = theirs.toStdString();
    std::erase_if(mapping_.features, [this](const auto& f) { return features_.contains(f.first); });
    for (const auto& [theirs, field] : features_)
        if (const QString ours = field->text().trimmed(); !ours.isEmpty())
            mapping_.features.emplace_back(theirs, ours.toStdString());
    look_ = block::look_at_log(log_.text, log_.file, mapping_);
    show_asks();
    show_look();
}

void LogAssistant::show_look() {
    QStringList heads;
    for (const std::string& heading : look_.headings)
        heads << qt(heading);
    std::vector<QStringList> rows;
    for (const auto& row : look_.rows) {
        QStringList cells;
        for (const std::string& cell : row)
            cells << qt(cell);
        while (cells.size() < heads.size())
            cells << QString();
        rows.push_back(cells.mid(0, heads.size()));
    }
    table_->show_rows(heads, static_cast<int>(heads.size()), rows);
    QStringList lines;
    if (look_.converted) {
        for (const std::string& line : look_.converted->understood)
            lines << qt(line);
        lines << tr("%1 touches").arg(look_.converted->touches);
    }
    words_->setText(look_.converted ? tr("Understood: %1.").arg(lines.join(QStringLiteral("; ")))
                                    : tr("Something of it is not known yet."));
    block::Faults first = look_.converted ? block::Faults{} : look_.converted.error();
    constexpr std::size_t most = 6;
    if (first.size() > most)
        first.resize(most);
    faults_->show_faults(first);
    take_->setEnabled(look_.converted.has_value());
}

void LogAssistant::accept() {
    take_asks();
    if (!look_.converted)
        return;
    if (const QString name = name_->text().trimmed(); !name.isEmpty())
        if (const auto kept = context_.session.book().engines().keep_mapping(name, block::write_mapping(mapping_));
            !kept)
            return show_faults(session::as_faults(kept.error()), context_, this);
    QDialog::accept();
}

} // namespace pallix::ui
