// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/field_at.h"

#include <algorithm>
#include <variant>

namespace pallix::block {
namespace {

/// Goes through an entry until it is at one field: looks at it, or puts something else there.
class FieldWay final : public FaultFinder {
  public:
    explicit FieldWay(std::string_view wanted, const FieldValue* put = nullptr) : wanted_(wanted), put_(put) {}
    using Fields::flag, Fields::number, Fields::whole;

    std::optional<FieldValue> found;

    void text(Key key, std::string& value, std::size_t) override {
        if (!here(key))
            return;
        if (put_)
            value = put_->text;
        seen({.kind = FieldKind::text, .text = value});
    }
    void flag(Key key, bool& value) override {
        if (!here(key))
            return;
        if (put_)
            value = put_->number.value_or(0) != 0;
        seen({.kind = FieldKind::flag, .number = value ? 1.0 : 0.0});
    }
    void number(Key key, double& value, Range range) override {
        if (in_list_) {
            if (put_)
                value = put_->numbers[item_];
            found->numbers.push_back(value);
            found->range = range;
            return;
        }
        if (!here(key))
            return;
        if (put_)
            value = put_->number.value_or(0);
        seen({.kind = FieldKind::number, .number = value, .range = range});
    }
    void whole(Key key, std::int64_t& value, Range range) override {
        if (!here(key))
            return;
        if (put_)
            value = static_cast<std::int64_t>(put_->number.value_or(0));
        seen({.kind = FieldKind::whole, .number = static_cast<double>(value), .range = range});
    }
    void place(Key, metrology::Vec2&) override {}
    void feature(Key, FeatureId&, std::initializer_list<FeatureKind>) override {}
    void name(Key key, std::size_t& index, std::span<const char* const> names) override {
        if (!here(key))
            return;
        if (put_)
            index = std::min(static_cast<std::size_t>(put_->number.value_or(0)), names.size() - 1);
        seen({.kind = FieldKind::choice, .number = static_cast<double>(index), .names = names});
    }
    bool left_out(Key key, bool has_usual_value) override {
        const std::string at = address(key);
        if (at == wanted_) {
            missing_ = has_usual_value;
            return put_ && !put_->stated();
        }
        if (!wanted_.starts_with(at + "."))
            return has_usual_value;
        missing_ = has_usual_value;
        return false;
    }
    void begin_group(Key key) override { path_.emplace_back(key); }
    std::size_t begin_list(Key key, std::size_t size, Count) override {
        path_.emplace_back(key);
        in_list_ = address("") == wanted_;
        if (!in_list_)
            return size;
        found = FieldValue{.kind = FieldKind::numbers};
        return put_ ? put_->numbers.size() : size;
    }
    void begin_item(std::size_t index) override {
        item_ = index;
        path_.push_back("[" + std::to_string(index) + "]");
    }
    std::vector<std::string> begin_map(Key key, std::vector<std::string> keys, Count) override {
        path_.emplace_back(key);
        const std::string at = address("") + ".";
        if (!wanted_.starts_with(at))
            return keys;
        const std::string own(wanted_.substr(at.size()));
        const auto known = std::ranges::find(keys, own);
        missing_ = known == keys.end();
        if (put_ && !put_->stated() && !missing_)
            keys.erase(known);
        else if (missing_ && !(put_ && !put_->stated()))
            keys.insert(std::ranges::upper_bound(keys, own), own);
        return keys;
    }
    void end() override {
        path_.pop_back();
        if (in_list_ && address("").size() < wanted_.size())
            in_list_ = false;
    }

  private:
    bool here(Key key) const { return address(key) == wanted_; }
    void seen(FieldValue value) {
        if (missing_ && !put_ && value.kind != FieldKind::choice) { // a choice that is left out is the first
            value.number.reset();
            value.text.clear();
        }
        found = std::move(value);
    }

    std::string_view wanted_;
    const FieldValue* put_;
    bool in_list_ = false;
    bool missing_ = false;
    std::size_t item_ = 0;
};

void go(FieldWay& way, Payload& payload) {
    std::visit(
        [&way]<class Entry>(Entry& entry) {
            if constexpr (!entry_kind<Entry>.empty())
                fields(way, entry);
        },
        static_cast<PayloadKinds&>(payload));
}

} // namespace

std::optional<FieldValue> field_at(const Payload& payload, std::string_view address) {
    Payload looked_at = payload; // looking fills in what was left out
    FieldWay way(address);
    go(way, looked_at);
    return way.found;
}

Payload with_field(const Payload& payload, std::string_view address, const FieldValue& value) {
    Payload changed = payload;
    FieldWay way(address, &value);
    go(way, changed);
    return changed;
}

} // namespace pallix::block
