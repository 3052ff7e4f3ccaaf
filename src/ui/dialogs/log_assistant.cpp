// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/log_assistant.h"

#include "block/number_text.h"
#include "ui/dialogs/fault_list.h"
#include "ui/dialogs/touch_picture.h"
#include "ui/frame/plain_label.h"
#include "ui/frame/plain_table.h"
#include "ui/manual_help.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {

namespace {

/// "30; 12; −9,5": degrees, and where the axis lies, mm.
std::optional<block::SetupTurn> turn_in(const QString& text) {
    std::vector<double> numbers;
    for (QString part : text.split(QLatin1Char(';'), Qt::SkipEmptyParts)) {
        const auto number =
            block::finite_number(part.trimmed().replace(QLatin1Char(','), QLatin1Char('.')).toStdString());
        if (!number)
            return std::nullopt;
        numbers.push_back(*number);
    }
    if (numbers.empty() || numbers.size() > 3)
        return std::nullopt;
    numbers.resize(3);
    return block::SetupTurn{numbers[0] * block::radians_per_degree, numbers[1], numbers[2]};
}

} // namespace

LogAssistant::LogAssistant(Context context, block::NamedText log, std::optional<block::Blueprint> blueprint,
                           QWidget* parent)
    : QDialog(parent), context_(context), log_(std::move(log)),
      blueprint_(std::move(blueprint)), look_{block::look_at_log(log_.text, log_.file)}, words_(new PlainLabel(this)),
      table_(new PlainTable(QStringLiteral("log-rows"), tr("the first rows of the log"), this)),
      picture_(new TouchPicture(context, this)), asks_(new QFormLayout),
      by_place_(new QCheckBox(tr("find the &names by where the touches lie"), this)), group_(new QLineEdit(this)),
      unit_(new QComboBox(this)), name_(new QLineEdit(this)), faults_(new FaultList(context, this)) {
    set_explained(this, QStringLiteral("questions-file"));
    setWindowTitle(tr("A log of another form: %1").arg(qt(log_.file)));
    build();
    try_what_is_kept();
    begin();
}

/// What is likely is laid before the person, who has only to look at it.
void LogAssistant::begin() {
    show_asks();
    const auto guess = look_.lacks.columns; // each choice looks at the log anew
    for (const auto& [ours, theirs] : guess)
        if (const auto choice = columns_.find(ours); choice != columns_.end())
            choice->second->setCurrentIndex(choice->second->findData(qt(theirs)));
    take_asks();
}

/// What is likely by where the touches lie, until the person says otherwise: names where the log's own say nothing, and
/// axes that are those of a mirror image.
void LogAssistant::propose() {
    if (decided_ || named_ || !blueprint_ || look_.touches.empty())
        return;
    const block::NamedLog by_place = block::name_log(look_, asked_, {}, &*blueprint_);
    if (!by_place.named.open.empty())
        return;
    const bool all = std::ranges::all_of(by_place.named.names, [](const auto& n) { return n.id.has_value(); });
    if (!look_.converted && block::has_labels(look_) && all) {
        const QSignalBlocker quiet(by_place_);
        by_place_->setChecked(true);
        name_by_place();
    } else if (look_.converted && by_place.named.mirrored) {
        for (const char* axis : {"x", "y", "z"})
            asked_.columns[axis] = by_place.mapping.columns.at(axis);
        mirrored_ = tr("its axes are left-handed, by where its places lie on the blueprint: y is turned round");
        mapping_ = asked_;
        look_ = block::look_at_log(log_.text, log_.file, mapping_);
    }
}

void LogAssistant::build() {
    setMinimumSize(900, 600);
    words_->setObjectName(QStringLiteral("log-understood"));
    words_->setWordWrap(true);
    set_type(words_, Type::text);
    unit_->setObjectName(QStringLiteral("log-unit"));
    unit_->addItems({tr("as it says; mm where it does not"), tr("mm"), tr("inch")});
    name_->setObjectName(QStringLiteral("log-mapping-name"));
    name_->setPlaceholderText(tr("the probe or the program it comes from; empty: not kept"));
    group_->setObjectName(QStringLiteral("log-group"));
    group_->setPlaceholderText(tr("main 1, bore R 2, deck L …; - leaves it out"));
    by_place_->setObjectName(QStringLiteral("log-by-place"));
    asks_->setVerticalSpacing(8);
    asks_->addRow(by_place_);
    asks_->addRow(tr("The &marked one is"), group_);
    asks_->addRow(tr("&Unit"), unit_);
    asks_->addRow(tr("&Keep how it is read as"), name_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    take_ = buttons->button(QDialogButtonBox::Ok);
    take_->setText(tr("Read it so"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 20, 20, 14);
    column->addWidget(table_, 1);
    column->addWidget(picture_, 3);
    column->addWidget(words_);
    column->addLayout(asks_);
    column->addWidget(faults_);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &LogAssistant::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(unit_, &QComboBox::currentIndexChanged, this, &LogAssistant::take_asks);
    connect(by_place_, &QCheckBox::toggled, this, [this] {
        decided_ = true;
        take_asks();
    });
    connect(picture_, &TouchPicture::pointed_at, this, &LogAssistant::show_group);
    group_->installEventFilter(this);
    picture_->installEventFilter(this);
}

bool LogAssistant::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            if (watched == picture_)
                group_->setFocus();
            else
                take_group_name();
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
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
        // As many touches, or the same words, do not make it the same program: they have to lie where its places are.
        if (blueprint_) {
            const auto check = block::check_names(look, *mapping, *blueprint_);
            if (check.agree < check.found)
                continue;
            if (check.found > 0)
                checked_ = tr("%1 of its runs lie where the blueprint has them").arg(check.agree);
        }
        mapping_ = asked_ = *mapping;
        look_ = std::move(look);
        if (mapping->unit)
            unit_->setCurrentIndex(*mapping->unit == block::Unit::mm ? 1 : 2);
        name_->setText(name);
        return;
    }
}

/// Fields for what is not known: how far the block was turned, columns, then names.
void LogAssistant::show_asks() {
    const bool words = block::has_labels(look_) && (by_place_->isChecked() || !look_.strangers.empty());
    asks_->setRowVisible(by_place_, words && !look_.touches.empty());
    asks_->setRowVisible(group_, named_.has_value());
    picture_->setVisible(named_.has_value());
    for (const auto& [pattern, field] : features_)
        asks_->setRowVisible(field, !named_);
    ask_for_turns();
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
        if (ours[0] == 'f' && !look_.lacks.columns.contains(ours) &&
            (look_.lacks.names || !look_.lacks.columns.empty()))
            continue; // there is no column of words
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
    if (named_)
        return;
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

/// How far the block was turned: in set-ups that the log names, or from where the touches say that it was.
void LogAssistant::ask_for_turns() {
    std::vector<std::string> turns = look_.lacks.turns;
    constexpr std::size_t many = 4; // operations of a program, most likely, and no set-ups
    if (turns.size() > many && turns_.empty())
        turns = {"*"};
    else if (turns_.contains("*"))
        turns.clear();
    if (named_ && named_->named.turned)
        turns.push_back("#" + std::to_string(named_->groups[named_->named.turned_from].first + 1));
    for (const std::string& setup : turns) {
        if (turns_.contains(setup))
            continue;
        auto* field = new QLineEdit(this);
        field->setObjectName(QStringLiteral("log-turn-%1").arg(turns_.size()));
        field->setPlaceholderText(tr("degrees; and where the axis lies, y; z in mm"));
        connect(field, &QLineEdit::editingFinished, this, &LogAssistant::take_asks);
        asks_->addRow(setup == "*"             ? tr("in all set-ups turned by")
                      : setup.starts_with('#') ? tr("from touch %1 on turned by").arg(qt(setup.substr(1)))
                                               : tr("in set-up %1 turned by").arg(qt(setup)),
                      field);
        turns_[setup] = field;
    }
}

void LogAssistant::take_asks() {
    asked_.unit.reset();
    if (unit_->currentIndex() > 0)
        asked_.unit = unit_->currentIndex() == 1 ? block::Unit::mm : block::Unit::inch;
    for (const auto& [ours, choice] : columns_)
        if (const QString theirs = choice->currentData().toString(); theirs.isEmpty())
            asked_.columns.erase(ours);
        else
            asked_.columns[ours] = theirs.toStdString();
    std::erase_if(asked_.features, [this](const auto& f) { return features_.contains(f.first); });
    for (const auto& [theirs, field] : features_)
        if (const QString ours = field->text().trimmed(); !ours.isEmpty())
            asked_.features.emplace_back(theirs, ours.toStdString());
    for (const auto& [setup, field] : turns_)
        if (const auto turn = turn_in(field->text()))
            asked_.setups[setup] = *turn;
        else
            asked_.setups.erase(setup);
    mapping_ = asked_;
    look_ = block::look_at_log(log_.text, log_.file, mapping_);
    name_by_place();
    propose();
    show_asks();
    show_look();
}

/// Names by where the touches lie, where the log has none, or by its words for places if they say nothing.
void LogAssistant::name_by_place() {
    named_.reset();
    const bool wanted = look_.lacks.names || (by_place_->isChecked() && block::has_labels(look_));
    if (!wanted || look_.touches.empty() || (look_.converted && !by_place_->isChecked()))
        return;
    named_ = block::name_log(look_, asked_, pointed_, blueprint_ ? &*blueprint_ : nullptr);
    picture_->show_touches(look_.touches, *named_);
    mapping_ = named_->mapping;
    look_ = block::look_at_log(log_.text, log_.file, mapping_);
    show_group(picture_->marked());
}

void LogAssistant::show_group(std::size_t group) {
    picture_->mark(group);
    if (!named_ || group >= named_->groups.size())
        return;
    const auto& id = named_->named.names[group].id;
    group_->setText(id ? qt(id->text()) : QString());
    group_->selectAll();
}

/// What the marked run of touches is, as somebody says it; the rest is told anew by that.
void LogAssistant::take_group_name() {
    if (!named_)
        return;
    const std::size_t group = picture_->marked();
    const QString text = group_->text().trimmed();
    if (text == QLatin1String("-")) {
        pointed_[group] = std::nullopt;
    } else if (const auto id = block::feature_by_usual_name(text.toStdString())) {
        pointed_[group] = *id;
    } else {
        faults_->show_faults({{log_.file, 0, "“" + text.toStdString() + "” is no place of a block",
                               "main 1, cam 2, dowel R 1, bore L 2, lifter R 3, deck L or panrail"}});
        return;
    }
    take_asks();
    picture_->setFocus();
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
        for (const QString& line : {checked_, mirrored_})
            if (!line.isEmpty() && !named_)
                lines << line;
    }
    QStringList open;
    if (named_)
        for (const std::string& line : named_->named.understood)
            lines << qt(line);
    if (named_)
        for (const std::string& line : named_->named.open)
            open << qt(line);
    words_->setText(!open.isEmpty()   ? tr("Only you can tell: %1.").arg(open.join(QStringLiteral("; ")))
                    : look_.converted ? tr("Understood: %1.").arg(lines.join(QStringLiteral("; ")))
                                      : tr("Something of it is not known yet."));
    block::Faults first = look_.converted ? block::Faults{} : look_.converted.error();
    constexpr std::size_t most = 6;
    if (first.size() > most)
        first.resize(most);
    faults_->show_faults(first);
    take_->setEnabled(look_.converted && open.isEmpty());
    take_->setText(named_ && !blueprint_ ? tr("These names are right") : tr("Read it so"));
}

void LogAssistant::accept() {
    take_asks();
    if (!look_.converted || !take_->isEnabled())
        return;
    if (const QString name = name_->text().trimmed(); !name.isEmpty())
        if (const auto kept = context_.session.book().engines().keep_mapping(name, block::write_mapping(mapping_));
            !kept)
            return show_faults(session::as_faults(kept.error()), context_, this);
    QDialog::accept();
}

} // namespace pallix::ui
