// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/guarded_json.h"

#include <nlohmann/json.hpp>
#include <vector>

namespace pallix::block {
namespace {

/// Counts what a text would become.
class Guard final : public nlohmann::json_sax<nlohmann::json> {
  public:
    bool null() override { return true; }
    bool boolean(bool) override { return true; }
    bool number_integer(number_integer_t) override { return true; }
    bool number_unsigned(number_unsigned_t) override { return true; }
    bool number_float(number_float_t, const string_t&) override { return true; }
    bool string(string_t&) override { return true; }
    bool binary(binary_t&) override { return true; }
    bool start_object(std::size_t) override { return deeper(); }
    bool key(string_t& name) override {
        if (name.size() > longest_key)
            return refuse("a key has " + std::to_string(name.size()) + " bytes",
                          "at most " + std::to_string(longest_key));
        if (++keys_.back() > most_keys)
            return refuse("an object has more than " + std::to_string(most_keys) + " keys", "fewer");
        return true;
    }
    bool end_object() override { return shallower(); }
    bool start_array(std::size_t) override { return deeper(); }
    bool end_array() override { return shallower(); }
    bool parse_error(std::size_t byte, const std::string&, const nlohmann::detail::exception& error) override {
        trouble_.byte = byte > 0 ? byte - 1 : 0;
        if (error.id == 406) // out_of_range
            return refuse("a number is outside what a computer number holds", "finite numbers");
        return refuse("this is not well-formed JSON", "a value, comma or bracket here");
    }

    [[nodiscard]] const JsonTrouble& trouble() const { return trouble_; }

  private:
    bool deeper() {
        keys_.push_back(0);
        return keys_.size() <= deepest_json ||
               refuse("lists and objects stand more than " + std::to_string(deepest_json) + " deep in one another",
                      "a flatter file");
    }
    bool shallower() {
        keys_.pop_back();
        return true;
    }
    bool refuse(std::string what, std::string expected) {
        trouble_.what = std::move(what);
        trouble_.expected = std::move(expected);
        return false;
    }

    std::vector<std::size_t> keys_; ///< so far, of each list and object that is open
    JsonTrouble trouble_;
};

} // namespace

std::optional<JsonTrouble> trouble_with_json(std::string_view text) {
    if (text.size() > largest_json)
        return JsonTrouble{"the file has " + std::to_string(text.size()) + " bytes",
                           "at most " + std::to_string(largest_json), 0};
    Guard guard;
    if (nlohmann::json::sax_parse(text.begin(), text.end(), &guard))
        return std::nullopt;
    return guard.trouble();
}

} // namespace pallix::block
