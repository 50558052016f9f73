"""Demands that the comparison turns red for one corrupted expectation of each kind of fact."""

import copy

import expected


def first(tables, wanted):
    return next(table for table in tables.values() if wanted(table))


def column(tables, wanted=lambda about: True):
    table = first(tables, lambda table: any(map(wanted, table["columns"].values())))
    return next(about for about in table["columns"].values() if wanted(about))


CORRUPTIONS = {
    "a table": lambda tables: tables.pop(next(iter(tables))),
    "a column": lambda tables: next(iter(tables.values()))["columns"].popitem(),
    "a type": lambda tables: column(tables).update(type="money"),
    "nullability": lambda tables: column(tables).update(null=not column(tables)["null"]),
    "a default": lambda tables: column(tables, lambda about: about["default"] is not None).update(default=None),
    "an identity": lambda tables: column(tables, lambda about: about["identity"]).update(identity=None),
    "a key": lambda tables: first(tables, lambda table: table["key"]).update(key=[]),
    "a unique": lambda tables: first(tables, lambda table: table["uniques"])["uniques"].pop(),
    "an index": lambda tables: first(tables, lambda table: table["indexes"])["indexes"].pop(),
    "an index condition": lambda tables: next(
        index for table in tables.values() for index in table["indexes"] if index["partial"]
    ).update(partial=False),
    "a foreign key": lambda tables: first(tables, lambda table: table["foreign_keys"])["foreign_keys"].pop(),
    "an action": lambda tables: first(tables, lambda table: table["foreign_keys"])["foreign_keys"][0].update(on_delete="set default"),
    "when a key is checked": lambda tables: first(tables, lambda table: table["foreign_keys"])["foreign_keys"][0].update(deferrable="never"),
    "a check": lambda tables: first(tables, lambda table: table["checks"]).update(checks=99),
}


def run(promised, found):
    """Corrupts the promise in every way; raises when one is not noticed."""
    assert not expected.facts(promised) ^ expected.facts(found), "the uncorrupted promise must hold"
    for what, corrupt in CORRUPTIONS.items():
        copied = copy.deepcopy(promised)
        corrupt(copied)
        if not expected.facts(copied) ^ expected.facts(found):
            raise SystemExit(f"a corrupted expectation was not noticed: {what}")
    print(f"self-test: {len(CORRUPTIONS)} corrupted expectations were noticed")
