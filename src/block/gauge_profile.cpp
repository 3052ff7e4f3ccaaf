// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/gauge_profile.h"

#include "block/fields_json.h"

#include <algorithm>
#include <boost/algorithm/string.hpp>
#include <charconv>
#include <cmath>
#include <re2/re2.h>

namespace pallix::block {
namespace {

constexpr std::size_t longest_pattern = 400, longest_request = 60, most_profiles = 100;
constexpr std::array gauge_units{"mm", "in", "um", "thou", "C"};

/// What a profile's unit or a line's is in the words of the protocol; empty where it is none.
std::string known_unit(std::string word) {
    boost::to_lower(word);
    if (word == "mm" || word == "in" || word == "um" || word == "thou")
        return word;
    if (word == "inch" || word == "\"")
        return "in";
    if (word == "\xC2\xB5m" || word == "\xB5m") // µm, by UTF-8 and by Latin-1
        return "um";
    if (word == "mil")
        return "thou";
    return word == "c" || word == "\xC2\xB0\x63" || word == "\xB0\x63" ? "C" : "";
}

void fields(Fields& f, GaugeProfile& p) {
    f.text("name", p.name, 60);
    f.demand(!p.name.empty(), "name", "is empty", "what the gauge is called");
    f.whole("baud", p.baud, {50, 4000000});
    f.whole("data_bits", p.data_bits, {7, 8});
    f.whole("stop_bits", p.stop_bits, {1, 2});
    f.choice_or_first("parity", p.parity, parity_keys);
    f.choice_or_first("flow", p.flow, flow_keys);
    f.choice("end", p.end, line_end_keys);
    f.text("pattern", p.pattern, longest_pattern);
    f.text("unit", p.unit, 10);
    f.demand(std::ranges::find(gauge_units, p.unit) != gauge_units.end(), "unit", "is \"" + p.unit + "\"",
             "mm, in, um, thou or C");
    f.text_if("request", p.request, longest_request);
    const auto bytes = bytes_typed(p.request);
    f.demand(bytes.has_value(), "request", bytes ? "" : bytes.error(), "text with \\r, \\n, \\t, \\\\ or \\x1B in it");
    f.text_if("pedal", p.pedal);
    f.demand(p.pedal.empty() || p.pedal.starts_with(keys_prefix) ||
                 std::ranges::find(pedal_lines, p.pedal) != pedal_lines.end(),
             "pedal", "is \"" + p.pedal + "\"", "cts, dsr, dcd, ri or keys: and a device");
    const auto ready = GaugePattern::of(p);
    f.demand(ready.has_value(), "pattern", ready ? "" : ready.error(),
             "a regular expression with a group (?P<number>…)");
}

/// "+000123" with its comma a point and without zeros in front; nothing where it is no number.
std::optional<std::string> plain_number(std::string text, bool negative) {
    std::ranges::replace(text, ',', '.');
    const std::size_t first = text.find_first_not_of('0');
    text.erase(0, first == std::string::npos ? text.size() : first);
    if (text.empty() || text.front() == '.')
        text.insert(0, "0");
    if (negative)
        text.insert(0, "-");
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    const bool sound = error == std::errc() && end == text.data() + text.size() && std::isfinite(value);
    return sound && text.size() <= 24 ? std::optional(text) : std::nullopt;
}

std::string short_line(std::string_view line) {
    const std::string shown = bytes_shown(line.substr(0, 40));
    return "“" + shown + (line.size() > 40 ? "…”" : "”");
}

} // namespace

std::optional<Fault> fault_of(const GaugeProfile& profile) {
    Checker checker;
    GaugeProfile copy = profile;
    fields(checker, copy);
    if (checker.faults().empty())
        return std::nullopt;
    const FieldFault& first = checker.faults().front();
    return Fault{first.field, 0, first.what, first.expected};
}

std::string gauge_profiles_text(const std::vector<GaugeProfile>& profiles) {
    std::vector<GaugeProfile> list = profiles;
    return fields_as_json([&](Fields& f) {
        f.list("gauges", list, {0, most_profiles}, [&f](GaugeProfile& p) { fields(f, p); });
    });
}

Result<std::vector<GaugeProfile>> read_gauge_profiles(std::string_view text, const std::string& file) {
    std::vector<GaugeProfile> list;
    Faults faults;
    for (const FieldFault& fault : fields_from_json(text, [&](Fields& f) {
             f.list("gauges", list, {0, most_profiles}, [&f](GaugeProfile& p) { fields(f, p); });
         }))
        faults.push_back({file, 0, fault.field + " " + fault.what, fault.expected});
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    return list;
}

tl::expected<std::string, std::string> bytes_typed(std::string_view text) {
    std::string bytes;
    for (std::size_t at = 0; at < text.size(); ++at) {
        if (text[at] != '\\') {
            bytes += text[at];
            continue;
        }
        const char what = at + 1 < text.size() ? text[at + 1] : ' ';
        constexpr std::string_view letters = "rnt\\", meant = "\r\n\t\\";
        if (const std::size_t known = letters.find(what); known != std::string_view::npos) {
            bytes += meant[known];
            ++at;
            continue;
        }
        unsigned byte = 0;
        const char* first = text.data() + std::min(at + 2, text.size());
        const char* last = text.data() + std::min(at + 4, text.size());
        const auto [end, error] = std::from_chars(first, last, byte, 16);
        if (what != 'x' || error != std::errc() || end != first + 2)
            return tl::unexpected("has a backslash before \"" + std::string(text.substr(at + 1, 3)) + "\"");
        bytes += static_cast<char>(byte);
        at += 3;
    }
    return bytes;
}

std::string bytes_shown(std::string_view bytes) {
    constexpr std::string_view digits = "0123456789ABCDEF";
    std::string text;
    for (const char c : bytes) {
        const auto byte = static_cast<unsigned char>(c);
        if (c == '\r')
            text += "\\r";
        else if (c == '\n')
            text += "\\n";
        else if (c == '\t')
            text += "\\t";
        else if (c == '\\')
            text += "\\\\";
        else if (byte < 0x20 || byte > 0x7E)
            text += std::string("\\x") + digits[byte / 16] + digits[byte % 16];
        else
            text += c;
    }
    return text;
}

tl::expected<GaugePattern, std::string> GaugePattern::of(const GaugeProfile& profile) {
    if (profile.pattern.size() > longest_pattern)
        return tl::unexpected("is longer than " + std::to_string(longest_pattern) + " letters");
    re2::RE2::Options options;
    options.set_encoding(re2::RE2::Options::EncodingLatin1); // a gauge sends bytes
    options.set_log_errors(false);
    options.set_max_mem(1 << 20);
    GaugePattern made;
    made.expression_ = std::make_shared<const re2::RE2>(profile.pattern, options);
    if (!made.expression_->ok())
        return tl::unexpected("cannot be read (" + made.expression_->error() + ")");
    const auto group = [&made](const char* name) {
        const auto& groups = made.expression_->NamedCapturingGroups();
        const auto found = groups.find(name);
        return found == groups.end() ? 0 : found->second;
    };
    made.unit_ = profile.unit;
    made.number_ = group("number");
    made.unit_group_ = group("unit");
    made.sign_ = group("sign");
    if (made.number_ == 0)
        return tl::unexpected(std::string("has no group called number"));
    return made;
}

tl::expected<GaugeReading, std::string> GaugePattern::read(std::string_view line) const {
    const auto wrong = [line](const std::string& expected) {
        return tl::unexpected("the gauge sent " + short_line(line) + ", expected " + expected);
    };
    std::vector<re2::StringPiece> groups(static_cast<std::size_t>(expression_->NumberOfCapturingGroups()) + 1);
    if (!expression_->Match({line.data(), line.size()}, 0, line.size(), re2::RE2::ANCHOR_BOTH, groups.data(),
                            static_cast<int>(groups.size())))
        return wrong("a line as its pattern has it");
    const auto text = [&groups](int group) {
        const re2::StringPiece piece = groups[static_cast<std::size_t>(group)];
        return group == 0 ? std::string() : std::string(piece.data() ? piece.data() : "", piece.size());
    };
    std::string digits = text(number_);
    bool negative = text(sign_) == "-";
    if (digits.starts_with('-') || digits.starts_with('+')) { // the sign within the number
        negative = negative != digits.starts_with('-');
        digits.erase(0, 1);
    }
    const auto value = plain_number(digits, negative);
    if (!value)
        return wrong("a number");
    std::string unit = unit_;
    if (const std::string named = boost::trim_copy(text(unit_group_)); !named.empty())
        unit = known_unit(named);
    if (unit.empty())
        return wrong("a unit of mm, in, um, thou or C");
    return GaugeReading{0, *value, unit};
}

} // namespace pallix::block
