# Sourced by what tries the program out: builds it unless one is given in $program, and makes the folder $dir, named after $1.
if [ -z "$program" ]; then
  cargo build --quiet --locked -p restless-owl
  program=${CARGO_TARGET_DIR:-target}/debug/restless-owl
fi
dir=$(mktemp -d "${TMPDIR:-/tmp}/owl-$1.XXXXXX")
chmod 755 "$dir"
