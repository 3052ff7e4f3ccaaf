// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/dialogs/learn_gauge_dialog.h"

#include "ui/dialogs/gauge_dialog.h"
#include "ui/frame/plain_label.h"
#include "ui/manual_help.h"

#include <QComboBox>
#include <QFontDatabase>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace pallix::ui {
namespace {

constexpr std::size_t needed = 3, shown = 6;

/// A choice among few, named as a reader of the screen finds it.
QComboBox* choice(QWidget* parent, const char* id, const QString& name, const QStringList& words) {
    auto* box = new QComboBox(parent);
    box->setObjectName(QString::fromLatin1(id));
    box->setAccessibleName(name);
    box->addItems(words);
    return box;
}

QStringList speeds() {
    QStringList words;
    for (const int baud : block::bauds)
        words << QString::number(baud);
    return words;
}

} // namespace

LearnGaugeDialog::LearnGaugeDialog(Context context, const QString& address,
                                   const std::optional<block::GaugeProfile>& before, QWidget* parent)
    : QDialog(parent), context_(context), name_(new QLineEdit(this)), pattern_(new QLineEdit(this)),
      request_(new QLineEdit(this)), address_(new QComboBox(this)),
      baud_(choice(this, "learn-baud", tr("speed"), speeds())),
      parity_(choice(this, "learn-parity", tr("parity"), {tr("no parity"), tr("even parity"), tr("odd parity")})),
      bits_(choice(this, "learn-bits", tr("bits"),
                   {tr("8 bits, 1 stop"), tr("8 bits, 2 stop"), tr("7 bits, 1 stop"), tr("7 bits, 2 stop")})),
      flow_(choice(this, "learn-flow", tr("flow"), {tr("sends freely"), tr("RTS/CTS"), tr("XON/XOFF")})),
      unit_(choice(this, "learn-unit", tr("unit"),
                   {QStringLiteral("mm"), QStringLiteral("in"), QStringLiteral("um"), QStringLiteral("thou"),
                    QStringLiteral("C")})),
      pedal_(choice(this, "learn-pedal", tr("foot switch"),
                    {tr("none"), tr("on CTS"), tr("on DSR"), tr("on DCD"), tr("on RI")})),
      heard_(new QPlainTextEdit(this)), tried_(new PlainLabel(this)), echo_(new PlainLabel(this)),
      listen_(new QPushButton(tr("&Listen"), this)), keep_(new QPushButton(tr("&Keep it"), this)) {
    set_explained(this, QStringLiteral("gauges-teach"));
    setWindowTitle(tr("Teach a gauge"));
    resize(scaled(780), scaled(640));
    fill_ports(address_, address);
    auto* press = new QPushButton(tr("Choose it by &pressing it"), this);
    press->setObjectName(QStringLiteral("learn-press"));
    auto* ask = new QPushButton(tr("&Ask once"), this);
    ask->setObjectName(QStringLiteral("learn-ask"));
    build(press, ask);
    fill(before.value_or(block::GaugeProfile()));
    connect(listen_, &QPushButton::clicked, this, &LearnGaugeDialog::listen);
    connect(ask, &QPushButton::clicked, this, [this] {
        if (const auto bytes = block::bytes_typed(request_->text().toStdString()); !bytes)
            echo_->setText(tr("What is sent %1.").arg(qt(bytes.error())));
        else if (!ear_.listens())
            echo_->setText(tr("Listen first."));
        else
            ear_.send(*bytes);
    });
    connect(press, &QPushButton::clicked, this, &LearnGaugeDialog::choose_pedal);
    connect(keep_, &QPushButton::clicked, this, &LearnGaugeDialog::accept);
    connect(pattern_, &QLineEdit::textEdited, this, [this] {
        written_ = true;
        try_pattern();
    });
    connect(unit_, &QComboBox::currentIndexChanged, this, &LearnGaugeDialog::try_pattern);
    connect(&ear_, &session::GaugeEar::heard, this, &LearnGaugeDialog::hear);
    connect(&ear_, &session::GaugeEar::lost, this, [this](const QString& why) {
        echo_->setText(tr("Connection lost: %1.").arg(why));
        listen_->setText(tr("&Listen"));
    });
    hear();
}

void LearnGaugeDialog::build(QPushButton* press, QPushButton* ask) {
    const auto field = [](QLineEdit* edit, const char* id, const QString& hint) {
        edit->setObjectName(QString::fromLatin1(id));
        edit->setPlaceholderText(hint);
    };
    field(name_, "learn-name", tr("bore gauge on the bench"));
    field(pattern_, "learn-pattern", tr("found when it was heard three times"));
    field(request_, "learn-request", tr("only where it waits to be asked: ?\\r"));
    address_->lineEdit()->setObjectName(QStringLiteral("learn-address"));
    listen_->setObjectName(QStringLiteral("learn-listen"));
    keep_->setObjectName(QStringLiteral("learn-keep"));
    heard_->setObjectName(QStringLiteral("learn-heard"));
    heard_->setAccessibleName(tr("what the gauge sends, byte by byte"));
    heard_->setReadOnly(true);
    heard_->setFont(QFontDatabase::systemFont(QFontDatabase::FixedFont));
    for (QLabel* label : {tried_, echo_})
        label->setWordWrap(true);
    tried_->setObjectName(QStringLiteral("learn-tried"));
    echo_->setObjectName(QStringLiteral("learn-echo"));
    const auto row = [](std::initializer_list<QWidget*> widgets) {
        auto* line = new QHBoxLayout;
        line->setSpacing(6);
        for (QWidget* widget : widgets)
            line->addWidget(widget);
        return line;
    };
    auto* where = row({address_, listen_});
    where->setStretch(0, 1);
    auto* set = row({baud_, parity_, bits_, flow_});
    set->addStretch();
    auto* asked = row({request_, ask});
    asked->setStretch(0, 1);
    auto* foot = row({pedal_, press});
    foot->addStretch();
    auto* number = row({pattern_, unit_});
    number->setStretch(0, 1);
    auto* form = new QFormLayout;
    form->setVerticalSpacing(10);
    const auto add = [this, form](const QString& words, QWidget* first, QLayout* line) {
        auto* label = new PlainLabel(words, this);
        label->setBuddy(first);
        form->addRow(label, line);
    };
    form->addRow(tr("&Name"), name_);
    add(tr("Listen &on"), address_, where);
    add(tr("&Speed"), baud_, set);
    add(tr("&Request"), request_, asked);
    add(tr("&Foot switch"), pedal_, foot);
    form->addRow(tr("Heard"), heard_);
    add(tr("Pa&ttern"), pattern_, number);
    form->addRow(QString(), tried_);
    auto* close = new QPushButton(tr("Leave it"), this);
    for (QPushButton* button : {press, ask, listen_, close})
        button->setAutoDefault(false);
    auto* end = new QHBoxLayout;
    end->addWidget(echo_, 1);
    end->addWidget(keep_);
    end->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 20, 24, 16);
    column->setSpacing(14);
    column->addLayout(form, 1);
    column->addLayout(end);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
}

void LearnGaugeDialog::fill(const block::GaugeProfile& profile) {
    name_->setText(qt(profile.name));
    pattern_->setText(qt(profile.pattern));
    request_->setText(qt(profile.request));
    baud_->setCurrentText(QString::number(profile.baud));
    parity_->setCurrentIndex(static_cast<int>(profile.parity));
    flow_->setCurrentIndex(static_cast<int>(profile.flow));
    bits_->setCurrentIndex((profile.data_bits == 7 ? 2 : 0) + (profile.stop_bits == 2 ? 1 : 0));
    unit_->setCurrentText(qt(profile.unit));
    end_ = profile.end;
    const auto line = std::ranges::find(block::pedal_lines, profile.pedal);
    if (line != block::pedal_lines.end())
        pedal_->setCurrentIndex(static_cast<int>(line - block::pedal_lines.begin()) + 1);
    else if (!profile.pedal.empty()) {
        pedal_->addItem(qt(profile.pedal), qt(profile.pedal));
        pedal_->setCurrentIndex(pedal_->count() - 1);
    }
}

block::GaugeProfile LearnGaugeDialog::profile() const {
    block::GaugeProfile p;
    p.name = name_->text().trimmed().toStdString();
    p.baud = baud_->currentText().toInt();
    p.data_bits = bits_->currentIndex() >= 2 ? 7 : 8;
    p.stop_bits = bits_->currentIndex() % 2 == 1 ? 2 : 1;
    p.parity = static_cast<block::Parity>(parity_->currentIndex());
    p.flow = static_cast<block::Flow>(flow_->currentIndex());
    p.end = end_;
    p.pattern = pattern_->text().toStdString();
    p.unit = unit_->currentText().toStdString();
    p.request = request_->text().toStdString();
    const int pedal = pedal_->currentIndex();
    if (const QString keys = pedal_->currentData().toString(); !keys.isEmpty())
        p.pedal = keys.toStdString();
    else if (pedal > 0)
        p.pedal = block::pedal_lines[static_cast<std::size_t>(pedal - 1)];
    return p;
}

QString LearnGaugeDialog::address() const {
    return port_in(address_);
}

void LearnGaugeDialog::listen() {
    echo_->clear();
    if (ear_.listens()) {
        ear_.stop();
        return listen_->setText(tr("&Listen"));
    }
    block::GaugeProfile set = profile();
    set.pedal.clear(); // it is taught by its own button
    if (const auto opened = ear_.listen(address(), set); !opened)
        return echo_->setText(qt(opened.error().front().text()));
    written_ = false;
    listen_->setText(tr("Stop &listening"));
    hear();
}

void LearnGaugeDialog::hear() {
    const auto& sent = ear_.sent();
    QStringList lines;
    for (std::size_t i = sent.size() > shown ? sent.size() - shown : 0; i < sent.size(); ++i)
        lines << qt(block::bytes_shown(sent[i].substr(0, 200)));
    heard_->setPlainText(lines.isEmpty() ? tr("Listen, then press its send key three times.")
                                         : lines.join(QLatin1Char('\n')));
    if (sent.size() >= needed) {
        const std::vector<std::string> last(sent.end() - static_cast<std::ptrdiff_t>(needed), sent.end());
        if (const auto learnt = block::learn_gauge(last)) {
            if (!written_) // what somebody has written himself is left alone
                pattern_->setText(qt(learnt->pattern));
            end_ = learnt->end;
            echo_->clear();
        } else if (!written_) {
            echo_->setText(tr("No pattern: %1.").arg(qt(learnt.error())));
        }
    }
    try_pattern();
}

/// What the pattern makes of what was heard.
void LearnGaugeDialog::try_pattern() {
    const auto pattern = block::GaugePattern::of(profile());
    if (pattern_->text().isEmpty() || !pattern)
        return tried_->setText(pattern_->text().isEmpty() ? QString() : tr("The pattern %1.").arg(qt(pattern.error())));
    QStringList read;
    const auto& sent = ear_.sent();
    for (std::size_t i = sent.size() > needed ? sent.size() - needed : 0; i < sent.size(); ++i) {
        const QString line = qt(sent[i]).trimmed().split(QLatin1Char('\n')).last().split(QLatin1Char('\r')).last();
        const auto reading = pattern->read(line.toStdString());
        read << (reading ? qt(reading->value + " " + reading->unit) : tr("not read"));
    }
    tried_->setText(read.isEmpty() ? tr("Nothing was heard yet to try it on.")
                                   : tr("Reads: %1").arg(read.join(QStringLiteral("  ·  "))));
}

/// A foot switch that is a keyboard, or a gauge that is one: which of all, the press tells.
void LearnGaugeDialog::choose_pedal() {
    watch_ = std::make_unique<session::KeyWatch>();
    if (watch_->watched() == 0)
        return echo_->setText(
            watch_->unreadable() > 0
                ? tr("This user may not read keyboards apart (group input). What is a keyboard works all the same: "
                     "it types into the reading line.")
                : tr("There is no keyboard or foot switch here that could be read apart."));
    echo_->setText(tr("Press it now."));
    connect(watch_.get(), &session::KeyWatch::pressed, this, [this](const QString& path, const QString& device) {
        const QString keys = QLatin1String(block::keys_prefix.data()) + path;
        if (pedal_->findData(keys) < 0)
            pedal_->addItem(device, keys);
        pedal_->setCurrentIndex(pedal_->findData(keys));
        echo_->setText(tr("%1 it is. To listen to it as a gauge: %2").arg(device, keys));
        watch_.release()->deleteLater(); // it is what called
    });
}

void LearnGaugeDialog::accept() {
    const block::GaugeProfile taught = profile();
    if (const auto fault = block::fault_of(taught))
        return echo_->setText(
            tr("Not kept: %1 %2, expected %3.").arg(qt(fault->file), qt(fault->what), qt(fault->expected)));
    ear_.stop();
    context_.preferences.keep_gauge_profile(taught);
    QDialog::accept();
}

} // namespace pallix::ui
