// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/preferences.h"

#include <QLocale>
#include <QSettings>
#include <algorithm>

namespace pallix::session {
namespace {

const auto key_unit = QStringLiteral("bench/unit");
const auto key_theme = QStringLiteral("bench/theme");
const auto key_person = QStringLiteral("bench/person");
const auto key_gauge = QStringLiteral("bench/gauge_address");
const auto key_gauge_name = QStringLiteral("bench/gauge_name");
const auto key_gauge_profiles = QStringLiteral("bench/gauge_profiles");
const auto key_clocks_heard = QStringLiteral("bench/clocks_heard");
const auto key_stack = QStringLiteral("bench/stack_pieces");
const auto usual_stack =
    QStringLiteral("50 mm 30 mm 20 mm 10 mm 5 mm 3 mm 2 mm 2 mm 1 mm 0.5 mm 0.3 mm 0.2 mm 0.1 mm 0.05 mm "
                   "0.03 mm 0.02 mm 0.02 mm");
const auto key_jacks = QStringLiteral("bench/jacks");
const auto key_draft = QStringLiteral("board/draft");
const auto key_size = QStringLiteral("window/size");
const auto key_coach = QStringLiteral("bench/coach");
const auto key_touch = QStringLiteral("window/touch");
const auto key_paper = QStringLiteral("bench/paper");
constexpr double smallest_size = 0.8, largest_size = 2;
const auto key_geometry = QStringLiteral("window/geometry");
const auto key_recent = QStringLiteral("files/recent");
constexpr int recent_limit = 8;

} // namespace

Preferences::Preferences(const QString& file, QObject* parent)
    : QObject(parent),
      settings_(file.isEmpty() ? std::make_unique<QSettings>(QStringLiteral("pallix"), QStringLiteral("pallix"))
                               : std::make_unique<QSettings>(file, QSettings::IniFormat)),
      unit_(block::unit_from_name(settings_->value(key_unit).toString().toStdString()).value_or(block::Unit::inch)),
      theme_(settings_->value(key_theme).toString() == QStringLiteral("dark") ? Theme::dark : Theme::light) {}

Preferences::~Preferences() = default;

void Preferences::set_unit(block::Unit unit) {
    if (unit == unit_)
        return;
    unit_ = unit;
    const auto name = block::unit_name(unit);
    settings_->setValue(key_unit, QString::fromLatin1(name.data(), static_cast<qsizetype>(name.size())));
    Q_EMIT unit_changed();
}

void Preferences::begin_as_usual_here() {
    if (settings_->contains(key_unit))
        return;
    const bool inches = QLocale::system().measurementSystem() != QLocale::MetricSystem;
    unit_ = inches ? block::Unit::mm : block::Unit::inch; // the other one, so that it is kept
    set_unit(inches ? block::Unit::inch : block::Unit::mm);
}

QString Preferences::paper() const {
    return settings_->value(key_paper).toString();
}

void Preferences::set_paper(const QString& paper) {
    settings_->setValue(key_paper, paper);
}

void Preferences::set_theme(Theme theme) {
    if (theme == theme_)
        return;
    theme_ = theme;
    settings_->setValue(key_theme, theme == Theme::dark ? QStringLiteral("dark") : QStringLiteral("light"));
    Q_EMIT theme_changed();
}

QString Preferences::draft() const {
    return settings_->value(key_draft).toString();
}

void Preferences::set_draft(const QString& engine) {
    settings_->setValue(key_draft, engine);
}

QString Preferences::person() const {
    const QString person = settings_->value(key_person).toString();
    return person.isEmpty() ? qEnvironmentVariable("USER", QStringLiteral("bench")) : person;
}

void Preferences::set_person(const QString& person) {
    settings_->setValue(key_person, person.trimmed());
    Q_EMIT person_changed();
}

namespace {

QString instrument_key(planning::Measuring what) {
    return QStringLiteral("instrument/") + QString::fromStdString(planning::plan_name(what, "")).trimmed();
}

} // namespace

QString Preferences::instrument_for(planning::Measuring what) const {
    return settings_->value(instrument_key(what)).toString();
}
void Preferences::set_instrument_for(planning::Measuring what, const QString& name) {
    settings_->setValue(instrument_key(what), name);
}

std::string Preferences::clocks_heard() const {
    return settings_->value(key_clocks_heard).toString().toStdString();
}

void Preferences::set_clocks_heard(const std::string& utc) {
    settings_->setValue(key_clocks_heard, QString::fromStdString(utc));
}

QString Preferences::last_gauge_address() const {
    return settings_->value(key_gauge).toString();
}
void Preferences::set_last_gauge_address(const QString& address) {
    settings_->setValue(key_gauge, address);
}

QString Preferences::last_gauge() const {
    return settings_->value(key_gauge_name).toString();
}
void Preferences::set_last_gauge(const QString& name) {
    settings_->setValue(key_gauge_name, name);
}
std::vector<block::GaugeProfile> Preferences::gauge_profiles() const {
    const std::string text = settings_->value(key_gauge_profiles).toString().toStdString();
    if (text.empty())
        return {};
    return block::read_gauge_profiles(text, "settings").value_or(std::vector<block::GaugeProfile>());
}
void Preferences::keep_gauge_profile(const block::GaugeProfile& profile) {
    auto profiles = gauge_profiles();
    const auto same = std::ranges::find(profiles, profile.name, &block::GaugeProfile::name);
    if (same == profiles.end())
        profiles.push_back(profile);
    else
        *same = profile;
    settings_->setValue(key_gauge_profiles, QString::fromStdString(block::gauge_profiles_text(profiles)));
}
void Preferences::forget_gauge_profile(const std::string& name) {
    auto profiles = gauge_profiles();
    std::erase_if(profiles, [&name](const block::GaugeProfile& p) { return p.name == name; });
    settings_->setValue(key_gauge_profiles, QString::fromStdString(block::gauge_profiles_text(profiles)));
}

QString Preferences::stack_pieces() const {
    return settings_->value(key_stack, usual_stack).toString();
}
void Preferences::set_stack_pieces(const QString& pieces) {
    settings_->setValue(key_stack, pieces);
}

QString Preferences::jacks() const {
    return settings_->value(key_jacks).toString();
}
void Preferences::set_jacks(const QString& typed) {
    settings_->setValue(key_jacks, typed);
}

double Preferences::size() const {
    bool sound = false;
    const double size = settings_->value(key_size, 1.0).toDouble(&sound);
    return sound ? std::clamp(size, smallest_size, largest_size) : 1; // a file edited by hand may say anything
}
void Preferences::set_size(double size) {
    const double before = this->size();
    settings_->setValue(key_size, std::clamp(size, smallest_size, largest_size));
    if (this->size() != before)
        Q_EMIT size_changed();
}

bool Preferences::touch() const {
    return settings_->value(key_touch, false).toBool();
}
void Preferences::set_touch(bool touch) {
    if (touch == this->touch())
        return;
    settings_->setValue(key_touch, touch);
    Q_EMIT size_changed();
}

planning::CoachDepth Preferences::coach() const {
    const auto* known =
        std::ranges::find(planning::coach_depth_keys, settings_->value(key_coach).toString().toStdString());
    return known == planning::coach_depth_keys.end()
               ? planning::CoachDepth::explains
               : static_cast<planning::CoachDepth>(known - planning::coach_depth_keys.begin());
}
void Preferences::set_coach(planning::CoachDepth depth) {
    settings_->setValue(key_coach, QLatin1String(planning::coach_depth_keys.at(static_cast<std::size_t>(depth))));
    Q_EMIT coach_changed();
}

QByteArray Preferences::geometry() const {
    return settings_->value(key_geometry).toByteArray();
}
void Preferences::set_geometry(const QByteArray& geometry) {
    settings_->setValue(key_geometry, geometry);
}

QStringList Preferences::recent_files() const {
    return settings_->value(key_recent).toStringList();
}

void Preferences::add_recent_file(const QString& file) {
    QStringList files = recent_files();
    files.removeAll(file);
    files.prepend(file);
    settings_->setValue(key_recent, QStringList(files.mid(0, recent_limit)));
}

} // namespace pallix::session
