// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/sealed_text.h"

#include <array>
#include <memory>
#include <openssl/evp.h>
#include <vector>

namespace pallix::block {
namespace {

using Bytes = std::vector<unsigned char>;
using Context = std::unique_ptr<EVP_CIPHER_CTX, decltype(&EVP_CIPHER_CTX_free)>;

// AES-256-GCM (NIST SP 800-38D). One nonce for all is no harm here: the key is no secret.
constexpr std::array<unsigned char, 32> key{'a', ' ', 'b', 'l', 'o', 'c', 'k', ' ', 't', 'o', ' ',
                                            'l', 'e', 'a', 'r', 'n', ' ', 'o', 'n', ',', ' ', 's',
                                            'e', 'a', 'l', 'e', 'd', ' ', 'u', 'p', '.', '.'};
constexpr std::array<unsigned char, 12> nonce{};
constexpr int tag_size = 16;

const unsigned char* bytes_of(std::string_view text) {
    return reinterpret_cast<const unsigned char*>(text.data());
}

} // namespace

std::string sealed_text(std::string_view text) {
    const Context context(EVP_CIPHER_CTX_new(), EVP_CIPHER_CTX_free);
    Bytes sealed(text.size() + tag_size);
    int written = 0;
    EVP_EncryptInit_ex(context.get(), EVP_aes_256_gcm(), nullptr, key.data(), nonce.data());
    EVP_EncryptUpdate(context.get(), sealed.data(), &written, bytes_of(text), static_cast<int>(text.size()));
    EVP_EncryptFinal_ex(context.get(), sealed.data() + written, &written);
    EVP_CIPHER_CTX_ctrl(context.get(), EVP_CTRL_GCM_GET_TAG, tag_size, sealed.data() + text.size());
    std::string base64(4 * ((sealed.size() + 2) / 3) + 1, '\0');
    base64.resize(static_cast<std::size_t>(EVP_EncodeBlock(reinterpret_cast<unsigned char*>(base64.data()),
                                                           sealed.data(), static_cast<int>(sealed.size()))));
    return base64;
}

std::optional<std::string> opened_text(std::string_view sealed) {
    Bytes bytes(3 * (sealed.size() / 4) + 3);
    const int decoded = EVP_DecodeBlock(bytes.data(), bytes_of(sealed), static_cast<int>(sealed.size()));
    const int padding = sealed.ends_with("==") ? 2 : sealed.ends_with("=") ? 1 : 0;
    if (decoded < 0 || decoded - padding < tag_size)
        return std::nullopt;
    const int size = decoded - padding - tag_size;
    const Context context(EVP_CIPHER_CTX_new(), EVP_CIPHER_CTX_free);
    std::string text(static_cast<std::size_t>(size), '\0');
    auto* into = reinterpret_cast<unsigned char*>(text.data());
    int written = 0;
    EVP_DecryptInit_ex(context.get(), EVP_aes_256_gcm(), nullptr, key.data(), nonce.data());
    EVP_DecryptUpdate(context.get(), into, &written, bytes.data(), size);
    EVP_CIPHER_CTX_ctrl(context.get(), EVP_CTRL_GCM_SET_TAG, tag_size, bytes.data() + size);
    return EVP_DecryptFinal_ex(context.get(), into + written, &written) == 1 ? std::optional(text) : std::nullopt;
}

} // namespace pallix::block
