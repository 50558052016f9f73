"""Demands that the checks turn red for one corrupted expectation of each kind of fact."""

import copy

import expected
import sprachbund


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


def corrupt(schema, elements, wanted, change):
    """Changes the first wanted element of a schema."""
    own = [entity for entity in schema["entities"] if entity["mapped"]["table"] and not entity["external"]]
    change(next(element for entity in own for element in elements(entity) if wanted(element)))


def elements(name):
    return lambda entity: [entity] if name is None else entity[name]


ENTITY, FIELDS, INDEXES, KEYS = map(elements, (None, "fields", "indexes", "foreign_keys"))

# The same for the verdict of `compare`, in the schema file: the elements to choose from, and what is done to the first that
# is wanted.
CORRUPTED_SCHEMAS = {
    "a table": (ENTITY, lambda entity: True, lambda entity: entity["mapped"].update(table=False)),
    "a column": (ENTITY, lambda entity: not entity["join"], lambda entity: entity["fields"].pop()),
    "a type": (FIELDS, lambda field: field["type"].startswith("varchar"), lambda field: field.update(type="text", stored="text")),
    "nullability": (FIELDS, lambda field: not field["identity"], lambda field: field.update(nullable=not field["nullable"])),
    "a default": (FIELDS, lambda field: not field["defaults"]["database"] and field["type"].startswith("varchar"), lambda field: field["defaults"].update(database={"literal": "x"})),
    "an identity": (FIELDS, lambda field: field["identity"], lambda field: field.update(identity=None)),
    "a key": (ENTITY, lambda entity: entity["primary_key"], lambda entity: entity.update(primary_key=None)),
    "a unique": (ENTITY, lambda entity: entity["uniques"], lambda entity: entity["uniques"].pop()),
    "an index": (ENTITY, lambda entity: entity["indexes"], lambda entity: entity["indexes"].pop()),
    "an index condition": (INDEXES, lambda index: index["condition"], lambda index: index.update(condition=None)),
    "a foreign key": (ENTITY, lambda entity: entity["foreign_keys"], lambda entity: entity["foreign_keys"].pop()),
    "an action": (KEYS, lambda key: True, lambda key: key.update(on_delete="set default")),
    "when a key is checked": (KEYS, lambda key: key["deferrable"], lambda key: key.update(deferrable=None)),
    "a check": (ENTITY, lambda entity: entity["checks"], lambda entity: entity["checks"].pop()),
}


def run(schema, server, found):
    """Corrupts what was read in every way; raises when one is not noticed."""
    promised = expected.catalog(schema, server.name)
    assert not expected.facts(promised) ^ expected.facts(found), "the uncorrupted promise must hold"
    for what, corruption in CORRUPTIONS.items():
        copied = copy.deepcopy(promised)
        corruption(copied)
        if not expected.facts(copied) ^ expected.facts(found):
            raise SystemExit(f"a corrupted expectation was not noticed: {what}")
    sound = len(sprachbund.compare(schema, server.address(), server.name))
    for what, (elements, wanted, change) in CORRUPTED_SCHEMAS.items():
        copied = copy.deepcopy(schema)
        corrupt(copied, elements, wanted, change)
        if len(sprachbund.compare(copied, server.address(), server.name)) <= sound:
            raise SystemExit(f"compare did not notice a corrupted schema: {what}")
    print(f"self-test: {len(CORRUPTIONS)} corrupted expectations and {len(CORRUPTED_SCHEMAS)} corrupted schemas were noticed")
