"""`python -m bench [NAME]`: run every benchmark, or one."""

import sys

from bench import (
    brute,
    check,
    contacts,
    decide,
    desk,
    dispatch,
    first,
    gate,
    grid,
    hold,
    keys,
    outreach,
    paper,
    passes,
    proof,
    routing,
    script,
    sign_in,
    size,
    submit,
    trouble,
    turn,
)
from bench.entries import data, table
from bench.support.figure import Figure
from bench.support.machine import plain_work

BENCHES = {
    "brute": brute.figures,
    "check": check.figures,
    "contacts": contacts.figures,
    "data": data.figures,
    "decide": decide.figures,
    "desk": desk.figures,
    "dispatch": dispatch.figures,
    "entries": table.figures,
    "first": first.figures,
    "gate": gate.figures,
    "grid": grid.figures,
    "hold": hold.figures,
    "keys": keys.figures,
    "outreach": outreach.figures,
    "paper": paper.figures,
    "passes": passes.figures,
    "proof": proof.figures,
    "routing": routing.figures,
    "script": script.figures,
    "sign_in": sign_in.figures,
    "size": size.figures,
    "submit": submit.figures,
    "trouble": trouble.figures,
    "turn": turn.figures,
}


def main() -> int:
    names = sys.argv[1:] or list(BENCHES)
    unknown = [name for name in names if name not in BENCHES]
    if unknown:
        print(f"No benchmark {unknown[0]}; there are {', '.join(BENCHES)}", file=sys.stderr)
        return 2
    holds = True
    machine = Figure("machine", "plain work in Python", plain_work(), "ms")
    print(machine.line(), flush=True)
    for name in names:
        for figure in BENCHES[name]():
            print(figure.line(), flush=True)
            holds = holds and figure.holds
    return 0 if holds else 1


if __name__ == "__main__":
    sys.exit(main())
