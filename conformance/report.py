"""The rows of the report, and docs/conformance.md."""

import pathlib

import expected
from cases import CASES
from servers import ABSENT, SERVERS

ROOT = pathlib.Path(__file__).parent.parent


# Projects of other people, as the page calls them.
UNNAMED = {
    name: f"third-party project {number}"
    for number, name in enumerate(dict.fromkeys(case.name.partition(",")[0] for case in CASES if case.of_others), 1)
}


def unnamed(title):
    """A case's title without the name of somebody's project."""
    name, comma, rest = title.partition(",")
    return UNNAMED.get(name, name) + comma + rest


class Report:
    def __init__(self):
        self.rows, self.faults, self.excused, self.lines = [], [], [], []

    def add(self, part):
        """What a part of the cases gave, told at once."""
        self.rows += part.rows
        self.faults += part.faults
        self.excused += part.excused
        print(*part.lines, sep="\n", flush=True)

    def row(self, case, check, total, agreeing, bad):
        """One check of a case; `bad` lists what disagrees without an excuse."""
        self.rows.append((case, check, total, agreeing, len(bad)))
        self.faults += [(case, check, *fault) for fault in bad]
        self.lines.append(f"{case}: {check}: {total} facts, {'agree' if not bad else f'{len(bad)} DIFFER'}")
        self.lines += [" | ".join(["   ", *map(str, fault)]) for fault in bad[:400]]

    def refused(self, case, check, fault):
        self.faults.append((case, check, fault))
        self.lines.append(f"{case}: {check}: refused: {fault[-3000:]}")

    def facts(self, case, check, promised, found, left_out=()):
        """Promised facts against found ones."""
        self.sets(case, check, expected.facts(promised), expected.facts(found), left_out)

    def sets(self, case, check, promised, found, left_out=None):
        """The same, of facts that are written out."""
        left_out = left_out or {}
        differing = promised ^ found
        bad = []
        for fact in sorted(differing):
            # Of a table, or of one element of it.
            reason = left_out.get(fact[0]) or left_out.get(fact[:3])
            if reason:
                self.excused.append((case, fact[0], reason))
            else:
                bad.append(("promised" if fact in promised else "found", *fact))
        total = len(found | promised)
        self.row(case, check, total, total - len({fact[1:] for fact in differing}), bad)

    def write(self):
        lines = [
            "# Conformance",
            "",
            "Written by `conformance/run`; do not edit. A real framework (or the server itself) makes the tables of each case.",
            "",
            "- **catalog**: what Sprachbund reads from the live database, against the server's own answers to queries of ours",
            "- **compare**: the verdict of `sprachbund compare` over the declarations and the live database",
            "- **read**: the parsed declarations, fact by fact (tables, columns, types, nullability, database defaults, identities,",
            "  keys, uniques, indexes, foreign keys with their actions, numbers of checks), against those answers",
            "- **emitted**: the same for what was emitted in another dialect, made by its framework",
            "- **account**: each difference between the two databases must be named by a loss",
            "",
            "| server of a case | release |",
            "| --- | --- |",
            *(f"| {label} | {'not to be had here' if label in ABSENT else server.release()} |" for label, server in SERVERS.items()),
            "",
            "| case | check | facts | disagreeing |",
            "| --- | --- | --- | --- |",
        ]
        lines += [f"| {unnamed(case)} | {check} | {total} | {bad} |" for case, check, total, _, bad in self.rows]
        lines += ["", "## What cannot agree", ""]
        reasons = {}
        for case, table, reason in self.excused:
            reasons[case, table, reason] = reasons.get((case, table, reason), 0) + 1
        lines += [f"- {unnamed(case)}: `{table}`, {count} facts: {reason}" for (case, table, reason), count in sorted(reasons.items())] or ["Nothing."]
        read = [row for row in self.rows if row[1] == "read"]
        agreeing, total = sum(row[3] for row in read), sum(row[2] for row in read)
        lines += ["", f"Of {total} facts of real catalogs, {100 * agreeing / total:.2f} % agree with what was read."]
        (ROOT / "docs/conformance.md").write_text("\n".join(lines) + "\n")
