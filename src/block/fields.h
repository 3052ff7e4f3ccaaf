// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/shared_text.h"
#include "metrology/geometry.h"

#include <array>
#include <cstdint>
#include <initializer_list>
#include <limits>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// What is wrong with one field of an entry: "depth_mm", "is 12", "0 to 5".
struct FieldFault {
    std::string field; ///< its address within the entry, "dark_mm[2]"; empty for the entry as a whole
    std::string what;
    std::string expected;

    /// "depth_mm is 12, expected 0 to 5", as files have it
    [[nodiscard]] std::string text() const;
    /// "depth is 12, expected 0 to 5 (mm)", for whoever typed it
    [[nodiscard]] std::string said() const;
};

/// What a number may be. Both ends belong to it, the lower one not where it must be above it.
struct Range {
    double least = 0, most = 0;
    bool above = false;

    [[nodiscard]] bool holds(double value) const {
        return value <= most && (above ? value > least : value >= least); // not for NaN
    }
    [[nodiscard]] std::string text() const;
};
/// How many items a list may have.
struct Count {
    std::size_t least = 0, most = 0;
};

/// No block is longer than ten metres: what goes on sizes no loop and no picture.
inline constexpr double longest = 10000; // mm
inline constexpr Range any_length{-longest, longest}, size_range{0, longest, true}, length_range{0, longest};
inline constexpr std::size_t short_text = 1000, long_text = 256u << 20;

/// One way through the fields of an entry. Every entry describes its fields once, as a function
/// `fields(Fields&, Entry&)`; writing it as JSON, reading it from JSON and checking what was made in the program are
/// three ways through that one description. A key of "" is the item of a list itself.
class Fields {
  public:
    using Key = std::string_view;
    virtual ~Fields() = default;

    virtual void text(Key key, std::string& value, std::size_t most = short_text) = 0;
    virtual void flag(Key key, bool& value) = 0;
    virtual void number(Key key, double& value, Range range) = 0;
    virtual void whole(Key key, std::int64_t& value, Range range) = 0;
    virtual void place(Key key, metrology::Vec2& value) = 0; ///< (u, v) mm
    virtual void feature(Key key, FeatureId& value, std::initializer_list<FeatureKind> kinds) = 0;
    virtual void name(Key key, std::size_t& index, std::span<const char* const> names) = 0;
    /// What several fields must have in common.
    virtual void demand(bool holds, Key key, std::string_view what, std::string_view expected) = 0;

    /// A field that files leave out where it has its usual value.
    /// @return whether there is nothing to write, read or check here
    virtual bool left_out(Key key, bool has_usual_value) = 0;

    virtual void begin_group(Key key) = 0;
    /// @return how many items follow, each between begin_item and end
    virtual std::size_t begin_list(Key key, std::size_t size, Count count) = 0;
    virtual void begin_item(std::size_t index) = 0;
    /// @return the keys of the map, each to be visited as a field
    virtual std::vector<std::string> begin_map(Key key, std::vector<std::string> keys, Count count) = 0;
    virtual void end() = 0;

    // ---- made of the above --------------------------------------------------------------------------------------

    void whole(Key key, int& value, Range range) {
        std::int64_t wide = value;
        whole(key, wide, range);
        value = static_cast<int>(wide);
    }
    void text(Key key, SharedText& value, std::size_t most) {
        std::string own = value;
        text(key, own, most);
        if (own != value.str())
            value = std::move(own);
    }
    void number(Key key, std::optional<double>& value, Range range) {
        if (left_out(key, !value)) {
            value.reset();
            return;
        }
        double known = value.value_or(0);
        number(key, known, range);
        value = known;
    }
    void flag(Key key, std::optional<bool>& value) {
        if (left_out(key, !value)) {
            value.reset();
            return;
        }
        bool known = value.value_or(false);
        flag(key, known);
        value = known;
    }
    template <class Enum, std::size_t N>
    void choice(Key key, Enum& value, const std::array<const char*, N>& names) {
        auto index = static_cast<std::size_t>(value);
        name(key, index, names);
        value = static_cast<Enum>(index);
    }
    /// The first of them where it is left out.
    template <class Enum, std::size_t N>
    void choice_or_first(Key key, Enum& value, const std::array<const char*, N>& names) {
        if (left_out(key, value == Enum{}))
            value = Enum{};
        else
            choice(key, value, names);
    }
    /// False where it is left out.
    void flag_if(Key key, bool& value) {
        if (left_out(key, !value))
            value = false;
        else
            flag(key, value);
    }
    /// Empty where it is left out.
    void text_if(Key key, std::string& value, std::size_t most = short_text) {
        if (left_out(key, value.empty()))
            value.clear();
        else
            text(key, value, most);
    }
    void number_or(Key key, double& value, double usual, Range range) {
        if (left_out(key, value == usual))
            value = usual;
        else
            number(key, value, range);
    }
    template <class Within>
    void group(Key key, Within within) {
        begin_group(key);
        within();
        end();
    }
    template <class T, class Each>
    void list(Key key, std::vector<T>& items, Count count, Each each) {
        items.resize(begin_list(key, items.size(), count));
        for (std::size_t i = 0; i < items.size(); ++i) {
            begin_item(i);
            each(items[i]);
            end();
        }
        end();
    }
    void numbers(Key key, std::span<double> values, Range range) {
        if (begin_list(key, values.size(), {values.size(), values.size()}) == values.size())
            for (std::size_t i = 0; i < values.size(); ++i) {
                begin_item(i);
                number("", values[i], range);
                end();
            }
        end();
    }
};

/// Collects faults; what reading and checking have in common.
class FaultFinder : public Fields {
  public:
    [[nodiscard]] const std::vector<FieldFault>& faults() const { return faults_; }
    void demand(bool holds, Key key, std::string_view what, std::string_view expected) override;

  protected:
    static constexpr std::size_t most_faults = 100;
    void fault(Key key, std::string what, std::string expected);
    void hold(Key key, double value, Range range);
    void hold(Key key, const std::string& text, std::size_t most);
    void hold(Key key, std::size_t size, Count count);
    void hold(Key key, const FeatureId& id, std::initializer_list<FeatureKind> kinds);
    [[nodiscard]] std::string address(Key key) const;
    std::vector<std::string> path_; ///< of groups, lists and items around the field

  private:
    std::vector<FieldFault> faults_;
};

/// Holds what was made in the program against what each field may be.
class Checker final : public FaultFinder {
  public:
    using Fields::flag, Fields::number, Fields::whole;
    void text(Key key, std::string& value, std::size_t most) override { hold(key, value, most); }
    void flag(Key, bool&) override {}
    void number(Key key, double& value, Range range) override { hold(key, value, range); }
    void whole(Key key, std::int64_t& value, Range range) override { hold(key, static_cast<double>(value), range); }
    void place(Key key, metrology::Vec2& value) override;
    void feature(Key key, FeatureId& value, std::initializer_list<FeatureKind> kinds) override {
        hold(key, value, kinds);
    }
    void name(Key key, std::size_t& index, std::span<const char* const> names) override;
    bool left_out(Key, bool has_usual_value) override { return has_usual_value; }
    void begin_group(Key key) override { path_.emplace_back(key); }
    std::size_t begin_list(Key key, std::size_t size, Count count) override;
    void begin_item(std::size_t index) override { path_.push_back("[" + std::to_string(index) + "]"); }
    std::vector<std::string> begin_map(Key key, std::vector<std::string> keys, Count count) override;
    void end() override { path_.pop_back(); }
};

} // namespace pallix::block
