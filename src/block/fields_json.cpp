// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/fields_json.h"

#include "block/guarded_json.h"
#include "block/json.h"

#include <algorithm>
#include <cmath>

namespace pallix::block {
namespace {

using metrology::Vec2;

class JsonWriter final : public Fields {
  public:
    using Fields::flag, Fields::number, Fields::whole;

    void text(Key key, std::string& value, std::size_t) override { at(key) = value; }
    void flag(Key key, bool& value) override { at(key) = value; }
    void number(Key key, double& value, Range) override { at(key) = value; }
    void whole(Key key, std::int64_t& value, Range) override { at(key) = value; }
    void place(Key key, Vec2& value) override { at(key) = Json::array({value.x, value.y}); }
    void feature(Key key, FeatureId& value, std::initializer_list<FeatureKind>) override { at(key) = value.text(); }
    void name(Key key, std::size_t& index, std::span<const char* const> names) override { at(key) = names[index]; }
    void demand(bool, Key, std::string_view, std::string_view) override {}
    bool left_out(Key, bool has_usual_value) override { return has_usual_value; }
    void begin_group(Key key) override { begin(key, Json::object()); }
    std::size_t begin_list(Key key, std::size_t size, Count) override {
        begin(key, Json::array());
        return size;
    }
    void begin_item(std::size_t) override {
        open_.back()->push_back(nullptr);
        open_.push_back(&open_.back()->back());
    }
    std::vector<std::string> begin_map(Key key, std::vector<std::string> keys, Count) override {
        begin(key, Json::object());
        return keys;
    }
    void end() override { open_.pop_back(); }

    [[nodiscard]] std::string written() const { return root_.dump(); }

  private:
    Json& at(Key key) { return key.empty() ? *open_.back() : (*open_.back())[std::string(key)]; }
    void begin(Key key, Json empty) {
        Json& j = at(key);
        j = std::move(empty);
        open_.push_back(&j);
    }

    Json root_ = Json::object();
    std::vector<Json*> open_{&root_};
};

/// A value as a message shows it: short.
std::string shown(const Json& value) {
    if (value.is_object())
        return "is an object";
    if (value.is_array())
        return "is a list";
    std::string text = value.dump(-1, ' ', false, Json::error_handler_t::replace);
    if (text.size() > 60)
        text = text.substr(0, 57) + "...";
    return "is " + text;
}

class JsonReader final : public FaultFinder {
  public:
    using Fields::flag, Fields::number, Fields::whole;
    explicit JsonReader(const Json& root) : open_{&root} {}

    void text(Key key, std::string& value, std::size_t most) override {
        if (const Json* j = find(key, &Json::is_string, "a text")) {
            value = j->get<std::string>();
            hold(key, value, most);
        }
    }
    void flag(Key key, bool& value) override {
        if (const Json* j = find(key, &Json::is_boolean, "true or false"))
            value = j->get<bool>();
    }
    void number(Key key, double& value, Range range) override {
        if (const Json* j = find(key, &Json::is_number, "a number")) {
            value = j->get<double>();
            hold(key, value, range);
        }
    }
    void whole(Key key, std::int64_t& value, Range range) override {
        const Json* j = find(key, &Json::is_number, "a whole number");
        if (!j)
            return;
        // Held as a double first: a number that no integer holds is out of range, not wrapped round.
        const auto wide = j->get<double>();
        if (wide != std::floor(wide))
            fault(key, shown(*j), "a whole number");
        else if (!range.holds(wide))
            fault(key, shown(*j), range.text());
        else
            value = static_cast<std::int64_t>(wide);
    }
    void place(Key key, Vec2& value) override {
        const Json* j = find(key, &Json::is_array, "a place [u, v]");
        if (!j)
            return;
        if (j->size() != 2 || !(*j)[0].is_number() || !(*j)[1].is_number())
            return fault(key, "is " + j->dump().substr(0, 60), "a place [u, v]");
        value = {(*j)[0].get<double>(), (*j)[1].get<double>()};
        hold(key, value.x, any_length);
        hold(key, value.y, any_length);
    }
    void feature(Key key, FeatureId& value, std::initializer_list<FeatureKind> kinds) override {
        const Json* j = find(key, &Json::is_string, "a feature");
        if (!j)
            return;
        const auto id = FeatureId::parse(j->get<std::string>());
        if (!id)
            return fault(key, shown(*j), "a feature such as \"main.1\"");
        value = *id;
        hold(key, value, kinds);
    }
    void name(Key key, std::size_t& index, std::span<const char* const> names) override {
        const Json* j = find(key, &Json::is_string, "a word");
        if (!j)
            return;
        const auto found = std::ranges::find(names, j->get<std::string>());
        if (found != names.end()) {
            index = static_cast<std::size_t>(found - names.begin());
            return;
        }
        std::string list;
        for (const char* known : names)
            list += (list.empty() ? "" : ", ") + std::string(known);
        fault(key, shown(*j), "one of " + list);
    }
    bool left_out(Key key, bool) override { return open_.back() && !open_.back()->contains(std::string(key)); }
    void begin_group(Key key) override { begin(key, find(key, &Json::is_object, "an object")); }
    std::size_t begin_list(Key key, std::size_t, Count count) override {
        const Json* j = find(key, &Json::is_array, "a list");
        const bool fits = j && j->size() >= count.least && j->size() <= count.most;
        if (j)
            hold(key, j->size(), count);
        begin(key, fits ? j : nullptr);
        return fits ? j->size() : 0;
    }
    void begin_item(std::size_t index) override {
        path_.push_back("[" + std::to_string(index) + "]");
        open_.push_back(open_.back() ? &(*open_.back())[index] : nullptr);
    }
    std::vector<std::string> begin_map(Key key, std::vector<std::string>, Count count) override {
        const Json* j = find(key, &Json::is_object, "an object");
        std::vector<std::string> keys;
        if (j) {
            hold(key, j->size(), count);
            for (const auto& item : j->items())
                if (keys.size() < count.most)
                    keys.push_back(item.key());
        }
        begin(key, j);
        return keys;
    }
    void end() override {
        path_.pop_back();
        open_.pop_back();
    }

  private:
    using IsKind = bool (Json::*)() const noexcept;

    /// @return the value where it is there and of its kind; else a fault was told, or one about what it stands in
    const Json* find(Key key, IsKind of_kind, const char* wanted) {
        const Json* in = open_.back();
        if (!in)
            return nullptr;
        const Json* j = in;
        if (!key.empty()) {
            const auto found = in->is_object() ? in->find(std::string(key)) : in->end();
            if (found == in->end()) {
                fault(key, "is missing", wanted);
                return nullptr;
            }
            j = &*found;
        }
        if ((j->*of_kind)())
            return j;
        fault(key, shown(*j), wanted);
        return nullptr;
    }
    void begin(Key key, const Json* j) {
        path_.emplace_back(key);
        open_.push_back(j);
    }

    std::vector<const Json*> open_; ///< what is being read, outermost first; null where a fault was told
};

} // namespace

std::string fields_as_json(const Walk& walk) {
    JsonWriter writer;
    walk(writer);
    return writer.written();
}

std::vector<FieldFault> fields_from_json(std::string_view json, const Walk& walk) {
    if (const auto trouble = trouble_with_json(json))
        return {{"", trouble->what, trouble->expected}};
    try {
        const Json root = Json::parse(json);
        if (!root.is_object())
            return {{"", shown(root), "an object"}};
        JsonReader reader(root);
        walk(reader);
        return reader.faults();
    } catch (const Json::exception&) { // a number no double holds
        return {{"", "holds a number outside what a computer number holds", "finite numbers"}};
    }
}

bool is_json(std::string_view text) {
    return !trouble_with_json(text);
}

} // namespace pallix::block
