"""The catalog that a schema file of `sprachbund parse` promises, in the facts of catalog.py."""

import json

from catalog import default_value, empty, mariadb, plain

TIMES = ("now", "statement-now")
LIKE_MYSQL = ("mariadb", "mysql")


def catalog(schema, database):
    tables = {}
    for entity in schema["entities"]:
        if not entity["mapped"]["table"] or entity["external"] or entity["kind"] != "table":
            continue
        table = tables[entity["table"]] = empty()
        for field in entity["fields"]:
            table["columns"][field["column"]] = {
                "type": stored(field, database),
                "null": field["nullable"],
                "identity": field["identity"] if database != "sqlite" or field["identity"] == "auto-increment" else None,
                "generated": field["generated"] is not None,
                "default": None if field["generated"] else default(field["defaults"]["database"], field["type"], database),
                "comment": field["comment"] if database != "sqlite" else None,
            }
        table["key"] = entity["primary_key"]["columns"] if entity["primary_key"] else []
        for unique in entity["uniques"]:
            if unique["as"] == "constraint" or database in LIKE_MYSQL:
                table["uniques"].append({"columns": unique["columns"], "as": "constraint", "deferrable": unique["deferrable"] if database == "postgresql" else None, "nulls": unique["nulls_not_distinct"]})
            else:
                parts = [{"column": column, "expression": False, "descending": False, "class": None} for column in unique["columns"]]
                table["indexes"].append({"parts": parts, "unique": True, "nulls": unique["nulls_not_distinct"], "partial": False, "method": None, "include": []})
        for index in entity["indexes"]:
            if database in LIKE_MYSQL and index["unique"] and all(part["column"] for part in index["parts"]):
                table["uniques"].append({"columns": index["columns"], "as": "constraint", "deferrable": None, "nulls": False})
                continue
            parts = [
                {
                    "column": part["column"],
                    "expression": part["column"] is None,
                    "descending": part["descending"],
                    "class": part["operator_class"] if database == "postgresql" else None,
                }
                for part in index["parts"]
            ]
            table["indexes"].append(
                {
                    "parts": parts,
                    "unique": index["unique"],
                    "nulls": index["nulls_not_distinct"],
                    "partial": index["condition"] is not None,
                    "method": index["method"] if database == "postgresql" else None,
                    "include": index["include"] if database == "postgresql" else [],
                }
            )
        for key in entity["foreign_keys"]:
            if key["enforced"] == "database":
                table["foreign_keys"].append(
                    {
                        "columns": key["columns"],
                        "table": key["references"]["table"],
                        "references": key["references"]["columns"],
                        "on_delete": action(key["on_delete"], database),
                        "on_update": action(key["on_update"], database),
                        "deferrable": key["deferrable"],
                    }
                )
        table["checks"] = len(entity["checks"])
        table["exclusions"] = len(entity["exclusions"])
    return tables


def action(word, database):
    return "no action" if database in LIKE_MYSQL and word == "restrict" else word


def stored(field, database):
    held = field["stored"].lower() if database == "sqlite" else field["stored"]
    if database not in LIKE_MYSQL:
        return held
    if field["type"] in ("json", "binary json"):
        return "json"
    return mariadb.WIDTHS.sub(r"\1", held)


def default(value, kind, database):
    if value is None:
        return None
    if "function" in value:
        word = value["function"]
        return "now" if database != "postgresql" and word in TIMES else word
    if "literal" in value:
        literal = value["literal"]
        if isinstance(literal, bool):
            return "1" if literal else "0"
        if isinstance(literal, list) and kind.endswith("array"):
            return "{" + ",".join(map(str, literal)) + "}"
        if isinstance(literal, (list, dict)):
            return json.dumps(literal, separators=(",", ":"), sort_keys=True)
        return plain(str(literal))
    return default_value(value["expression"]["text"])


def facts(tables):
    """A catalog as a flat set of (table, element, aspect, value)."""
    found = set()
    for name, table in tables.items():
        found.add((name, "", "exists", "yes"))
        for column, about in table["columns"].items():
            for aspect, value in about.items():
                found.add((name, f"column {column}", aspect, json.dumps(value, sort_keys=True, ensure_ascii=False)))
        found.add((name, "key", "columns", json.dumps(table["key"])))
        for unique in table["uniques"]:
            for aspect in ("deferrable", "nulls"):
                found.add((name, "unique " + ", ".join(unique["columns"]), aspect, json.dumps(unique[aspect])))
        for index in table["indexes"]:
            found.add((name, "index", json.dumps(index, sort_keys=True), "yes"))
        for key in table["foreign_keys"]:
            element = "foreign key " + ", ".join(key["columns"])
            for aspect in ("table", "references", "on_delete", "on_update", "deferrable"):
                found.add((name, element, aspect, json.dumps(key[aspect])))
        found.add((name, "checks", "count", str(table["checks"])))
        found.add((name, "exclusions", "count", str(table["exclusions"])))
    return found
