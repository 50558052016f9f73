"""The program under test, driven as its users drive it."""

import json
import os
import subprocess

from servers import scratch

PROGRAM = os.environ["SPRACHBUND"]


def run(*command):
    done = subprocess.run([PROGRAM, *[str(part) for part in command]], capture_output=True, text=True)
    if done.returncode not in (0, 1):
        raise SystemExit(f"{' '.join(map(str, command))}\n{done.stdout}\n{done.stderr}")
    return done


def inputs(declarations):
    return declarations if isinstance(declarations, list) else [declarations]


def parse(declarations, database, *options):
    """The schema of declarations, a script or a live database."""
    out = scratch("schema.json")
    out.unlink(missing_ok=True)
    run("parse", *inputs(declarations), "--database", database, "--out", out, *options)
    return json.loads(out.read_text())


def emit(declarations, dialect, target, database, out, *options):
    """Writes the target's declarations; the account of losses."""
    done = run("emit", *inputs(declarations), "--from", dialect, "--to", target, "--database", database, "--out", out, "--format", "json", *options)
    return json.loads(done.stdout)


def compare(schema, address, database):
    """What a schema and a live database differ in."""
    left = scratch("left.json")
    left.write_text(json.dumps(schema))
    return json.loads(run("compare", left, address, "--database", database, "--format", "json").stdout)["found"]


def lint(declarations, database, *options):
    """What does not fit together in declarations."""
    done = run("lint", *inputs(declarations), "--database", database, "--format", "json", "--detail", *options)
    return json.loads(done.stdout)
