# Completion of noggin-awl-cli: its verbs, then the options of the verb, then files.
_noggin_awl_cli() {
  local word=${COMP_WORDS[COMP_CWORD]}
  if [ "$COMP_CWORD" = 1 ]; then
    local verbs
    verbs=$(noggin-awl-cli --help 2>/dev/null | sed -n '/^Subcommands:/,$s/^  \([a-z]\+\) .*/\1/p')
    mapfile -t COMPREPLY < <(compgen -W "$verbs --help" -- "$word")
  elif [ "${word:0:1}" = - ]; then
    local options
    options=$(noggin-awl-cli "${COMP_WORDS[1]}" --help 2>/dev/null | grep -o -e '--[a-z-]*')
    mapfile -t COMPREPLY < <(compgen -W "$options" -- "$word")
  else
    mapfile -t COMPREPLY < <(compgen -f -- "$word")
  fi
}
complete -o filenames -F _noggin_awl_cli noggin-awl-cli
