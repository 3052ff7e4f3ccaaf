# SPDX-License-Identifier: GPL-3.0-or-later
# Completion of pallix, pallix-cli and pallix-gauge: what each says of itself with --help.

_pallix() {
    local program=${COMP_WORDS[0]} word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} i help
    local -a command=()
    if [[ ${program##*/} == pallix-cli ]]; then
        for ((i = 1; i < COMP_CWORD; ++i)); do
            [[ ${COMP_WORDS[i]} == -* ]] && break
            command+=("${COMP_WORDS[i]}")
        done
    fi
    help=$("$program" "${command[@]}" --help 2>/dev/null) || return
    local choices
    choices=$(sed -n "s/^ *\(-., *\|-.,\)\?$before[ ,].*{\([^}]*\)}.*/\2/p" <<<"$help" | tr ',' ' ')
    if [[ $before == --* && -n $choices ]]; then
        mapfile -t COMPREPLY < <(compgen -W "$choices" -- "$word")
    elif [[ $word == -* ]]; then
        mapfile -t COMPREPLY < <(compgen -W "$(grep -o -e '--[a-z][a-z-]*' <<<"$help")" -- "$word")
    elif [[ $before != --* && $help == *Subcommands:* ]]; then
        mapfile -t COMPREPLY < <(compgen -W "$(sed '1,/^Subcommands:/d' <<<"$help" | awk '/^  [a-z]/ {print $1}')" -- "$word")
    else
        compopt -o default
        COMPREPLY=()
    fi
}
complete -F _pallix pallix pallix-cli pallix-gauge
