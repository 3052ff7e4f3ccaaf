// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/digest.h"

#include <array>
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

std::string digest_of(const std::vector<Entry>& entries) {
    std::string digest;
    for (const Entry& entry : entries) {
        const std::string kind = kind_of(entry.payload), payload = payload_json(entry.payload);
        digest =
            digest_after(digest, {entry.sequence, entry.time, entry.person, kind, version_of(entry.payload), payload});
    }
    return digest;
}

} // namespace pallix::block
