// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/key_typing.h"

#include <algorithm>
#include <array>
#include <linux/input-event-codes.h>

namespace pallix::block {
namespace {

struct Key {
    int code;
    char plain, shifted;
};
constexpr auto keys = std::to_array<Key>({
    {KEY_1, '1', '!'},       {KEY_2, '2', '@'},      {KEY_3, '3', '#'},           {KEY_4, '4', '$'},
    {KEY_5, '5', '%'},       {KEY_6, '6', '^'},      {KEY_7, '7', '&'},           {KEY_8, '8', '*'},
    {KEY_9, '9', '('},       {KEY_0, '0', ')'},      {KEY_MINUS, '-', '_'},       {KEY_EQUAL, '=', '+'},
    {KEY_COMMA, ',', '<'},   {KEY_DOT, '.', '>'},    {KEY_SLASH, '/', '?'},       {KEY_SEMICOLON, ';', ':'},
    {KEY_SPACE, ' ', ' '},   {KEY_TAB, '\t', '\t'},  {KEY_ENTER, '\n', '\n'},     {KEY_KPENTER, '\n', '\n'},
    {KEY_KP0, '0', '0'},     {KEY_KP1, '1', '1'},    {KEY_KP2, '2', '2'},         {KEY_KP3, '3', '3'},
    {KEY_KP4, '4', '4'},     {KEY_KP5, '5', '5'},    {KEY_KP6, '6', '6'},         {KEY_KP7, '7', '7'},
    {KEY_KP8, '8', '8'},     {KEY_KP9, '9', '9'},    {KEY_KPDOT, '.', '.'},       {KEY_KPCOMMA, ',', ','},
    {KEY_KPMINUS, '-', '-'}, {KEY_KPPLUS, '+', '+'}, {KEY_APOSTROPHE, '\'', '"'}, {KEY_A, 'a', 'A'},
    {KEY_B, 'b', 'B'},       {KEY_C, 'c', 'C'},      {KEY_D, 'd', 'D'},           {KEY_E, 'e', 'E'},
    {KEY_F, 'f', 'F'},       {KEY_G, 'g', 'G'},      {KEY_H, 'h', 'H'},           {KEY_I, 'i', 'I'},
    {KEY_J, 'j', 'J'},       {KEY_K, 'k', 'K'},      {KEY_L, 'l', 'L'},           {KEY_M, 'm', 'M'},
    {KEY_N, 'n', 'N'},       {KEY_O, 'o', 'O'},      {KEY_P, 'p', 'P'},           {KEY_Q, 'q', 'Q'},
    {KEY_R, 'r', 'R'},       {KEY_S, 's', 'S'},      {KEY_T, 't', 'T'},           {KEY_U, 'u', 'U'},
    {KEY_V, 'v', 'V'},       {KEY_W, 'w', 'W'},      {KEY_X, 'x', 'X'},           {KEY_Y, 'y', 'Y'},
    {KEY_Z, 'z', 'Z'},
});

} // namespace

std::optional<char> KeyTyping::feed(int code, int value) {
    if (code == KEY_LEFTSHIFT)
        shift_left_ = value != 0;
    else if (code == KEY_RIGHTSHIFT)
        shift_right_ = value != 0;
    const auto* found = std::ranges::find(keys, code, &Key::code);
    if (value != 1 || found == keys.end())
        return std::nullopt;
    return shift_left_ || shift_right_ ? found->shifted : found->plain;
}

} // namespace pallix::block
