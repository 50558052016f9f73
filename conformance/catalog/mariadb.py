"""The catalog of MariaDB, from SHOW and information_schema."""

import re

from . import default_value, empty

# The width at which a number is shown says nothing of its values.
WIDTHS = re.compile(r"^((?:small|medium|big|tiny)?int|year)\(\d+\)")


def read(connection):
    tables = {}
    cursor = connection.cursor()

    def rows(query):
        cursor.execute(query)
        return cursor.fetchall()

    for name, kind in rows("SHOW FULL TABLES"):
        if kind == "BASE TABLE":
            tables[name] = empty()
    json_columns = set()
    for table, clause in rows("SELECT table_name, check_clause FROM information_schema.check_constraints WHERE constraint_schema = DATABASE()"):
        valid = re.fullmatch(r"json_valid\(`(.*)`\)", clause)
        if valid:
            json_columns.add((table, valid.group(1)))
        elif table in tables:
            tables[table]["checks"] += 1
    for name, table in tables.items():
        quoted = "`" + name.replace("`", "``") + "`"
        for column, kind, _, null, key, default, extra, _, comment in rows(f"SHOW FULL COLUMNS FROM {quoted}"):
            generated = "GENERATED" in extra
            if key == "PRI":
                table["key"].append(column)
            table["columns"][column] = {
                "type": "json" if (name, column) in json_columns and kind == "longtext" else WIDTHS.sub(r"\1", kind),
                "null": null == "YES",
                "identity": "by-default" if "auto_increment" in extra else None,
                "generated": generated,
                "default": None,
                "comment": comment or None,
            }
        for index in indexes(rows(f"SHOW INDEX FROM {quoted}")):
            if index.pop("primary"):
                table["key"] = [part["column"] for part in index["parts"]]
            elif index["unique"]:
                table["uniques"].append({"columns": [part["column"] for part in index["parts"]], "as": "constraint", "deferrable": None, "nulls": False})
            else:
                table["indexes"].append(index)
    defaults = """SELECT table_name, column_name, column_default FROM information_schema.columns
                  WHERE table_schema = DATABASE() AND column_default IS NOT NULL AND is_generated = 'NEVER'"""
    for table, column, default in rows(defaults):
        if table in tables:
            tables[table]["columns"][column]["default"] = default_value(re.sub(r"^current_timestamp\(\d*\)$", "now()", default))
    foreign_keys(rows, tables)
    return tables


def foreign_keys(rows, tables):
    """Adds them to their tables; `rows` asks the server."""
    keys = """SELECT k.table_name, k.constraint_name, k.column_name, k.referenced_table_name, k.referenced_column_name, r.delete_rule, r.update_rule
              FROM information_schema.key_column_usage k JOIN information_schema.referential_constraints r
              USING (constraint_schema, constraint_name, table_name)
              WHERE k.table_schema = DATABASE() AND k.referenced_table_name IS NOT NULL
              ORDER BY 1, 2, k.ordinal_position"""
    found = {}
    for table, name, column, other, referenced, on_delete, on_update in rows(keys):
        entry = found.setdefault((table, name), {"columns": [], "table": other, "references": [], "deferrable": None})
        entry["columns"].append(column)
        entry["references"].append(referenced)
        entry["on_delete"], entry["on_update"] = action(on_delete), action(on_update)
    for (table, _), entry in found.items():
        tables[table]["foreign_keys"].append(entry)


def action(rule):
    """InnoDB refuses at once either way."""
    return rule.lower().replace("restrict", "no action")


def indexes(rows):
    found = {}
    for _, not_unique, name, _, column, collation, _, _, _, _, method, *_ in rows:
        index = found.setdefault(
            name,
            {"parts": [], "unique": not not_unique, "nulls": False, "partial": False, "method": None, "include": [], "primary": name == "PRIMARY"},
        )
        index["parts"].append({"column": column, "expression": False, "descending": collation == "D", "class": None})
    return found.values()
