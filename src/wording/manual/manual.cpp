// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/manual/manual.h"

#include <algorithm>
#include <boost/algorithm/string.hpp>
#include <set>
#include <sstream>

namespace pallix::wording {
namespace {

constexpr std::string_view also_begins = "*Also: ", also_ends = ".*";

/// `## Wash {#step-wash}`; nothing where the line is no heading.
bool read_heading(const std::string& line, ManualSection& section) {
    const std::size_t level = line.find_first_not_of('#');
    const std::size_t name = line.rfind(" {#");
    if (level == 0 || level == std::string::npos || line[level] != ' ' || name == std::string::npos)
        return false;
    section.level = static_cast<int>(level);
    section.title = line.substr(level + 1, name - level - 1);
    section.id = line.substr(name + 3, line.rfind('}') - name - 3);
    return true;
}

/// Where the other forms end that a text begins with; 0 where there are none.
std::size_t end_of_also(std::string_view body) {
    const std::size_t end = body.starts_with(also_begins) ? body.find(also_ends) : std::string_view::npos;
    return end == std::string_view::npos ? 0 : end + also_ends.size();
}

bool is_letter(char c) {
    return std::isalnum(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80;
}

/// Where a word stands by itself in a sentence; npos where it does not.
std::size_t find_whole(std::string_view sentence, std::string_view word) {
    for (std::size_t at = sentence.find(word); at != std::string_view::npos; at = sentence.find(word, at + 1)) {
        const std::size_t end = at + word.size();
        if ((at == 0 || !is_letter(sentence[at - 1])) && (end == sentence.size() || !is_letter(sentence[end])))
            return at;
    }
    return std::string_view::npos;
}

} // namespace

Manual::Manual(const std::vector<std::string>& chapters) : chapters_(chapters.size()) {
    for (std::size_t chapter = 0; chapter < chapters.size(); ++chapter) {
        std::istringstream lines(chapters[chapter]);
        for (std::string line; std::getline(lines, line);)
            if (ManualSection begun; read_heading(line, begun)) {
                begun.chapter = chapter;
                sections_.push_back(std::move(begun));
            } else if (!sections_.empty()) {
                sections_.back().body += line + "\n";
            }
    }
    for (ManualSection& section : sections_) {
        boost::trim(section.body);
        if (const std::size_t end = end_of_also(section.body); end > 0) {
            const std::string list =
                section.body.substr(also_begins.size(), end - also_begins.size() - also_ends.size());
            boost::split(section.also, list, boost::is_any_of(","));
            for (std::string& form : section.also)
                boost::trim(form);
        }
    }
}

const ManualSection* Manual::find(std::string_view id) const {
    const auto found = std::ranges::find(sections_, id, &ManualSection::id);
    return found == sections_.end() ? nullptr : &*found;
}

std::string Manual::chapter(std::size_t number) const {
    std::string text;
    for (const ManualSection& section : sections_)
        if (section.chapter == number)
            text += std::string(static_cast<std::size_t>(section.level), '#') + " " + section.title + "\n\n" +
                    section.body + "\n\n";
    return text;
}

std::vector<const ManualSection*> Manual::search(std::string_view typed) const {
    std::vector<std::string> words;
    const std::string lowered = boost::to_lower_copy(boost::trim_copy(std::string(typed)));
    boost::split(words, lowered, boost::is_space(), boost::token_compress_on);
    std::vector<const ManualSection*> by_title, by_text;
    if (lowered.empty())
        return by_title;
    const auto holds = [&words](const std::string& text) {
        const std::string here = boost::to_lower_copy(text);
        return std::ranges::all_of(words, [&here](const std::string& w) { return here.find(w) != std::string::npos; });
    };
    for (const ManualSection& section : sections_)
        if (holds(section.title))
            by_title.push_back(&section);
        else if (holds(section.title + "\n" + section.body))
            by_text.push_back(&section);
    by_title.insert(by_title.end(), by_text.begin(), by_text.end());
    return by_title;
}

std::vector<WordInText> Manual::words_in(std::string_view sentence) const {
    const std::string lowered = boost::to_lower_copy(std::string(sentence));
    std::vector<WordInText> found;
    for (const ManualSection& section : sections_) {
        if (!section.is_word())
            continue;
        std::vector<std::string> forms = section.also;
        forms.push_back(section.title);
        for (const std::string& form : forms)
            if (const std::size_t at = find_whole(lowered, boost::to_lower_copy(form)); at != std::string::npos)
                found.push_back({at, form.size(), &section});
    }
    std::ranges::sort(found, [](const WordInText& a, const WordInText& b) {
        return a.begin != b.begin ? a.begin < b.begin : a.size > b.size;
    });
    std::vector<WordInText> kept; // each word once, none within another
    std::set<const ManualSection*> known;
    for (const WordInText& word : found)
        if ((kept.empty() || word.begin >= kept.back().begin + kept.back().size) && known.insert(word.section).second)
            kept.push_back(word);
    return kept;
}

std::string Manual::meaning(const ManualSection& word) {
    std::string text = boost::trim_copy(word.body.substr(end_of_also(word.body)));
    boost::erase_all(text, "*");
    return text;
}

} // namespace pallix::wording
