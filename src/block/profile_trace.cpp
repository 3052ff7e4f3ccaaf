// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/profile_trace.h"

#include "block/number_text.h"
#include "block/utf8.h"

#include <cmath>
#include <csv.h>
#include <memory>
#include <string_view>

namespace pallix::block {
namespace {

constexpr double mm_per_um = 1e-3;

class TraceReader {
  public:
    explicit TraceReader(const NamedText& trace) : trace_(trace) {}

    Result<ProfileTrace> read() {
        if (Faults faults = faults_of_text(trace_); !faults.empty())
            return tl::unexpected(std::move(faults));
        csv_parser parser;
        csv_init(&parser, CSV_STRICT | CSV_STRICT_FINI);
        const std::unique_ptr<csv_parser, decltype(&csv_free)> guard(&parser, &csv_free);
        std::string_view rest = trace_.text;
        while (!rest.empty()) {
            ++line_;
            const std::size_t end = std::min(rest.find('\n'), rest.size() - 1) + 1;
            const std::string_view line = rest.substr(0, end);
            rest.remove_prefix(end);
            if (line.starts_with('#') && !header_seen_)
                take_head(line);
            else if (csv_parse(&parser, line.data(), line.size(), &TraceReader::on_field, &TraceReader::on_row, this) !=
                     line.size())
                fault("a quotation mark stands where none may", "fields as RFC 4180 quotes them");
        }
        if (csv_fini(&parser, &TraceReader::on_field, &TraceReader::on_row, this) != 0)
            fault("a quoted field is not closed", "a closing quotation mark");
        finish();
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        return std::move(out_);
    }

  private:
    void fault(std::string what, std::string expected, int line = -1) {
        constexpr std::size_t most = 20; // a file of another kind has one fault a line
        if (faults_.size() < most)
            faults_.push_back({trace_.file, line < 0 ? line_ : line, std::move(what), std::move(expected)});
    }

    void take_head(std::string_view line) {
        const auto colon = line.find(':');
        if (colon == std::string_view::npos)
            return; // a remark
        const std::string_view key = trimmed(line.substr(1, colon - 1));
        const auto value = finite_number(trimmed(line.substr(colon + 1)));
        if (key == "pallix-trace") {
            version_seen_ = true;
            if (value != 1.0)
                fault("this trace is of a version that is not known", "# pallix-trace: 1");
        } else if (key == "cutoff_mm") {
            if (!value || *value <= 0)
                fault("the cutoff is no length", "# cutoff_mm: a number greater than 0");
            else
                out_.cutoff = *value;
        }
    }

    static void on_field(void* text, std::size_t length, void* self) {
        static_cast<TraceReader*>(self)->fields_.emplace_back(static_cast<const char*>(text), length);
    }
    static void on_row(int, void* self) {
        auto& reader = *static_cast<TraceReader*>(self);
        reader.take_row();
        reader.fields_.clear();
    }

    void take_row() {
        if (!header_seen_) {
            header_seen_ = true;
            if (fields_ != std::vector<std::string>{"x", "z"})
                fault("the header row is not x,z", "x,z: place along the trace in mm, height in µm");
            return;
        }
        if (fields_.size() != 2)
            return fault("this row has " + std::to_string(fields_.size()) + " fields", "2 as in the header row");
        const auto x = finite_number(trimmed(fields_[0])), z = finite_number(trimmed(fields_[1]));
        if (!x || !z)
            return fault((x ? "z is \"" + fields_[1] : "x is \"" + fields_[0]) + "\"", "a finite number");
        places_.push_back({*x, line_});
        out_.profile.heights.push_back(*z * mm_per_um);
    }

    void finish() {
        if (!faults_.empty())
            return;
        if (!version_seen_)
            return fault("this is no roughness trace", "a first line # pallix-trace: 1", 1);
        if (places_.size() < 2)
            return fault("the trace holds " + std::to_string(places_.size()) + " points", "two cutoffs of them");
        out_.profile.step = (places_.back().x - places_.front().x) / static_cast<double>(places_.size() - 1);
        if (!(out_.profile.step > 0))
            return fault("x does not grow", "points from one end to the other", places_.front().line);
        const double first = places_[1].x - places_[0].x;
        for (std::size_t i = 1; i < places_.size(); ++i)
            if (const double step = places_[i].x - places_[i - 1].x; std::abs(step - first) > 0.01 * std::abs(first))
                return fault("the step to this point differs from the others", "points evenly spaced", places_[i].line);
        if (out_.profile.length() < 2 * out_.cutoff || out_.cutoff < 5 * out_.profile.step)
            fault("the trace is too short or too coarse for its cutoff",
                  "a length of two cutoffs and more, a step of a fifth of it and less");
    }

    struct Place {
        double x;
        int line;
    };
    const NamedText& trace_;
    ProfileTrace out_;
    Faults faults_;
    int line_ = 0;
    bool header_seen_ = false, version_seen_ = false;
    std::vector<std::string> fields_;
    std::vector<Place> places_;
};

} // namespace

Result<ProfileTrace> read_trace(const NamedText& trace) {
    return TraceReader(trace).read();
}

} // namespace pallix::block
