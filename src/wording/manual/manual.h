// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::wording {

/// One heading of the manual with what stands under it.
struct ManualSection {
    std::string id; ///< "step-wash", "rule-doubt", "word-datum": what links, F1 and the tests name it by
    std::string title;
    std::string body; ///< Markdown, as far as the next heading
    int level = 1;
    std::size_t chapter = 0;
    std::vector<std::string> also; ///< of a word of the trade: its other forms
    [[nodiscard]] bool is_word() const { return id.starts_with("word-"); }
};

/// A word of the trade where it stands in a sentence.
struct WordInText {
    std::size_t begin = 0, size = 0; ///< bytes
    const ManualSection* section = nullptr;
};

/// The manual: chapters in Markdown whose headings end with a name: `## Wash {#step-wash}`. A word of the trade lists
/// its other forms at the beginning: `*Also: caps.*`.
class Manual {
  public:
    explicit Manual(const std::vector<std::string>& chapters);

    [[nodiscard]] const std::vector<ManualSection>& sections() const { return sections_; }
    [[nodiscard]] const ManualSection* find(std::string_view id) const; ///< nullptr where there is none
    [[nodiscard]] std::size_t chapters() const { return chapters_; }
    /// A chapter as Markdown without the names; its headings are its sections, in their order.
    [[nodiscard]] std::string chapter(std::size_t number) const;
    /// Sections that hold every word that was typed, those with all of them in their title first.
    [[nodiscard]] std::vector<const ManualSection*> search(std::string_view typed) const;
    /// What is explained of a sentence: each word of the trade where it stands first, the longest form that fits.
    [[nodiscard]] std::vector<WordInText> words_in(std::string_view sentence) const;
    /// What a word means, without its other forms and without markup.
    [[nodiscard]] static std::string meaning(const ManualSection& word);

  private:
    std::vector<ManualSection> sections_;
    std::size_t chapters_ = 0;
};

} // namespace pallix::wording
