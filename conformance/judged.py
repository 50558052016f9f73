"""What `lint` holds for an error in packages of the registries, each judged once by a person.

judged.json lists every finding of severity error with a verdict: whether it is true, and why. A finding that is not listed,
one that is judged false, or one that is listed and no longer found, fails: a false error is mended in its rule.
"""

import json
import sys

import sprachbund
from cases import CASES, ROOT

FILE = ROOT / "conformance/judged.json"


def is_package(case):
    return isinstance(case.declarations, list)


def findings(case):
    """The errors of a package on its first server: rule, entity, element and message."""
    database = case.databases[0]
    found = sprachbund.lint(case.declarations, database, "--from", case.dialect, *case.options)
    return [
        {"package": case.name, "rule": each["rule"], "entity": each["entity"], "element": each["element"], "message": each["message"]}
        for each in found
        if each["severity"] == "error"
    ]


def key(finding):
    return (finding["package"], finding["rule"], finding["entity"], finding["element"])


def check():
    """Words for everything that is not judged, or judged false."""
    judged = {key(each): each for each in json.loads(FILE.read_text())}
    found = {key(each): each for case in CASES if is_package(case) for each in findings(case)}
    faults = [f"not judged: {each['package']}: {each['rule']}: {each['message']}" for name, each in found.items() if name not in judged]
    faults += [f"judged false: {each['package']}: {each['rule']}: {each['message']}" for name, each in judged.items() if not each["true"]]
    faults += [f"no longer found: {name}" for name in judged if name not in found]
    return faults, len(found)


if __name__ == "__main__":
    # Lists what is found, for a person to judge.
    json.dump([finding for case in CASES if is_package(case) for finding in findings(case)], sys.stdout, indent=2)
