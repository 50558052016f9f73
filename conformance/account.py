"""Whether the account of losses names every difference between two databases."""

import json

import expected

# Words of the account's facts for each aspect of the catalog.
ASPECTS = {
    "type": ("type", "held as"),
    "null": ("nullable", "generated"),
    "identity": ("identity",),
    "default": ("default in the database", "purpose"),
    "comment": ("comment",),
    "generated": ("generated",),
}


def unnamed(source, made, account):
    """How many facts the two catalogs differ in, and those of them that no loss names."""
    named = {(fact["table"], fact["element"], fact["aspect"]) for loss in account["losses"] for fact in loss["facts"]}
    before, after = expected.facts(source), expected.facts(made)
    # Tables that something else created before are created now.
    created = {name[0] for name in named if name[1:] == ("", "created")}
    # An enumeration type may be called after its table and column: the loss names the enumeration.
    renamed = any(name[1].startswith("enum ") for name in named)
    called = {fact[:2] for fact in after if fact[2] == "type" and fact[3].startswith('"enum_')} if renamed else set()
    # A column that is on one side only is named by its type; what it lacks there needs no name.
    typed = [{fact[:2] for fact in side if fact[2] == "type"} for side in (before, after)]
    on_one_side = typed[0] ^ typed[1]
    bad = []
    for fact in sorted(before ^ after):
        table, element, aspect, _ = fact
        if element == "index":
            parts = json.loads(aspect)
            columns = [part["column"] for part in parts["parts"]]
            hit = any(name[0] == table and ("index" in name[1] or name[1].startswith("unique")) and all(column is None or column in name[1] for column in columns) for name in named)
        elif element.startswith("foreign key"):
            hit = any(name[0] == table and name[1] == element and name[2] in ("", "enforced", aspect) for name in named)
        elif element.startswith("unique"):
            hit = any(name[0] == table and element.removeprefix("unique ") in name[1] for name in named)
        elif element in ("checks", "exclusions"):
            hit = any(name[0] == table and name[1].startswith(element[:-1]) for name in named)
        elif element.startswith("column"):
            hit = any(name[0] == table and name[1] == element and (name[2] == "" or name[2] in ASPECTS.get(aspect, (aspect,))) for name in named)
            hit = hit or (aspect == "type" and (table, element) in called)
            hit = hit or ((table, element) in on_one_side and (table, element, "type") in named)
        else:
            hit = any(name[0] == table and name[1] in ("", "key") for name in named)
        if not hit and table not in created:
            bad.append(("unnamed", *fact))
    return len(before | after), bad
