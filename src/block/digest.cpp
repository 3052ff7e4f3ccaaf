// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/digest.h"

#include <array>
#include <cctype>
#include <openssl/sha.h>

namespace pallix::block {
namespace {

/// Each part with its length before it: no two entries make the same text.
void add(std::string& text, std::string_view part) {
    text += std::to_string(part.size());
    text += ':';
    text += part;
    text += ',';
}

} // namespace

std::string sha256_hex(std::string_view text) {
    std::array<unsigned char, SHA256_DIGEST_LENGTH> bytes{};
    SHA256(reinterpret_cast<const unsigned char*>(text.data()), text.size(), bytes.data());
    constexpr std::string_view digits = "0123456789abcdef";
    std::string hex;
    for (const unsigned char byte : bytes) {
        hex += digits[byte >> 4];
        hex += digits[byte & 0xf];
    }
    return hex;
}

std::string digest_after(std::string_view before, const EntryText& entry) {
    std::string text;
    text.reserve(entry.payload.size() + 256);
    add(text, before);
    add(text, std::to_string(entry.sequence));
    add(text, entry.time);
    add(text, entry.person);
    add(text, entry.kind);
    add(text, std::to_string(entry.version));
    add(text, entry.payload);
    return sha256_hex(text);
}

namespace {

std::string sealed(const std::string& before, const Entry& entry) {
    const std::string kind = kind_of(entry.payload), payload = payload_json(entry.payload);
    return digest_after(before, {entry.sequence, entry.time, entry.person, kind, version_of(entry.payload), payload});
}

} // namespace

std::string digest_of(const std::vector<Entry>& entries) {
    std::string digest;
    for (const Entry& entry : entries)
        digest = sealed(digest, entry);
    return digest;
}

std::optional<std::int64_t> entry_of_digest(const std::vector<Entry>& entries, std::string_view typed) {
    constexpr std::size_t least = 12;
    std::string wanted;
    for (const char c : typed)
        if (std::isspace(static_cast<unsigned char>(c)) == 0)
            wanted += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (wanted.size() < least)
        return std::nullopt;
    std::string digest;
    for (const Entry& entry : entries)
        if (digest = sealed(digest, entry); digest.starts_with(wanted))
            return entry.sequence;
    return std::nullopt;
}

} // namespace pallix::block
