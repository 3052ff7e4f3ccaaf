#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Writes a man page from what a program says of itself with --help, and of each of its commands.

Usage: man_page.py PROGRAM VERSION DAY WORDS > PAGE
WORDS is a text: its first line says what the program is, the rest is put under DESCRIPTION, paragraph by paragraph;
a line that begins with "# " begins a section of that name after the options.
"""
import re
import subprocess
import sys


def escaped(text):
    text = text.replace("\\", "\\e").replace("-", "\\-").replace("…", "...")
    return "\\&" + text if text[:1] in ".'" else text


def said(program, command):
    return subprocess.run([program, *command, "--help"], check=True, capture_output=True, text=True).stdout


def parts(text):
    """(section, name, words) of each line of a --help; what is wrapped is put together."""
    section, found = "", []
    for line in text.splitlines():
        if re.match(r"^\S.*:$", line):
            section = line[:-1]
        elif line.startswith("  ") and section:
            name, _, words = line.strip().partition("  ")
            indent = len(line) - len(line.lstrip())
            if indent > 8 and found:  # goes on
                found[-1][2] += " " + line.strip()
            else:
                found.append([section, name, words.strip()])
    return [tuple(part) for part in found]


def write(program, command, lines):
    options = [(n, w) for s, n, w in parts(said(program, command)) if n.startswith("-") and not n.startswith("-h")]
    commands = [(n, w) for s, n, w in parts(said(program, command)) if s == "Subcommands"]
    arguments = [(n, w) for s, n, w in parts(said(program, command)) if s in ("Arguments", "Positionals")]
    for name, words in arguments + options:
        lines += [".TP", "\\fB" + escaped(name) + "\\fR", escaped(words) or "\\&"]
    for name, words in commands:
        lines += [".SS " + '"' + escaped(" ".join([*command, name])) + '"', escaped(words) + "."]
        write(program, [*command, name], lines)


def main():
    program, version, day, words_file = sys.argv[1:]
    name = program.rsplit("/", 1)[-1]
    with open(words_file, encoding="utf-8") as file:
        first, *rest = file.read().splitlines()
    lines = [f'.TH {name.upper()} 1 "{day}" "Pallix {version}" "User Commands"', ".SH NAME",
             f"{escaped(name)} \\- {escaped(first)}", ".SH SYNOPSIS"]
    usage = re.search(r"Usage: \S+ (.*)", said(program, []))
    lines += [f".B {escaped(name)}", escaped(usage.group(1).replace("…", "..."))]
    lines.append(".SH DESCRIPTION")
    sections = "\n".join(rest).split("\n# ")
    for paragraph in sections[0].strip().split("\n\n"):
        lines += [".PP", *map(escaped, paragraph.splitlines())]
    lines.append(".SH OPTIONS")
    write(program, [], lines)
    for section in sections[1:]:
        heading, _, text = section.partition("\n")
        lines.append(f".SH {heading.upper()}")
        for paragraph in text.strip().split("\n\n"):
            lines += [".PP", *map(escaped, paragraph.splitlines())]
    print("\n".join(lines))


main()
