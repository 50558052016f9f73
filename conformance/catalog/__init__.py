"""Reads the catalogs of live databases into plain facts. Shares no code with Sprachbund.

A catalog is a dict: table -> {"columns": {name: {...}}, "key": [...], "uniques": [...], "indexes": [...],
"foreign_keys": [...], "checks": n}. Names of constraints and indexes are left out: frameworks make them.
"""

import json
import re


def empty():
    return {"columns": {}, "key": [], "uniques": [], "indexes": [], "foreign_keys": [], "checks": 0, "exclusions": 0}


FUNCTIONS = {
    "now()": "now",
    "current_timestamp": "now",
    "datetime('now')": "now",
    "strftime('%y-%m-%d %h:%m:%f', 'now')": "now",
    "statement_timestamp()": "statement-now",
    "current_date": "today",
    "curdate()": "today",
    "('now'::text)::date": "today",
    "uuid_generate_v4()": "random-uuid",
    "gen_random_uuid()": "random-uuid",
}


def default_value(text):
    """A default in the one spelling that both sides are brought to."""
    if text is None:
        return None
    text = text.strip()
    while text.startswith("(") and text.endswith(")"):
        text = text[1:-1].strip()
    if re.fullmatch(r"NULL(::[\w \[\]]+)?", text, re.I):
        return None
    cast = re.fullmatch(r"CAST\((.*) AS \w+\)", text, re.I | re.S)
    if cast:
        text = cast.group(1)
    known = FUNCTIONS.get(text.lower())
    if known:
        return known
    listed = re.fullmatch(r"ARRAY\[(.*?)\](::[\w \[\]]+)?", text, re.S)
    if listed:
        items = (re.sub(r"^\((.*)\)::[\w ]+$", r"\1", item) for item in re.split(r", ?", listed.group(1)) if item)
        return "{" + ",".join(default_value(item) for item in items) + "}"
    quoted = re.fullmatch(r"'((?:[^']|'')*)'(::[\w \[\]\".(),]+)?", text, re.S)
    if quoted:
        text = quoted.group(1).replace("''", "'")
    # The same function, whatever the case.
    if re.match(r"\w+\(", text) and not quoted:
        return re.sub(r"'::\w+", "'", text.lower())
    if text[:1] in "{[" and quoted and "json" in (quoted.group(2) or ""):
        return json.dumps(json.loads(text), separators=(",", ":"), sort_keys=True)
    return plain(text)


def plain(text):
    """Numbers and truth values lose what servers add or drop."""
    lowered = text.lower()
    if lowered in ("true", "t", "1"):
        return "1"
    if lowered in ("false", "f", "0"):
        return "0"
    try:
        number = float(text)
        return repr(int(number)) if number == int(number) else repr(number)
    except ValueError:
        return text
