"""The catalog of SQLite, from its pragmas."""

import re
import sqlite3

from . import default_value, empty


def read(path):
    connection = sqlite3.connect(path)
    tables = {}
    rows = connection.execute(
        "SELECT name, sql FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'"
    ).fetchall()
    for name, sql in rows:
        table = tables[name] = empty()
        quoted = '"' + name.replace('"', '""') + '"'
        key = []
        for _, column, kind, not_null, default, position, hidden in connection.execute(f"PRAGMA table_xinfo({quoted})"):
            numbered = position and re.search(r"autoincrement", sql, re.I) and kind.lower() == "integer"
            table["columns"][column] = {
                "type": re.sub(r"\s+generated always$", "", kind.lower().replace(", ", ",")),
                "null": not (not_null or position),
                "identity": "auto-increment" if numbered else None,
                "generated": hidden in (2, 3),
                "default": default_value(default),
                "comment": None,
            }
            if position:
                key.append((position, column))
        table["key"] = [column for _, column in sorted(key)]
        table["checks"] = len(re.findall(r"\bCHECK\s*\(", sql, re.I))
        keys = {}
        for number, _, other, own, theirs, on_update, on_delete, _ in connection.execute(f"PRAGMA foreign_key_list({quoted})"):
            entry = keys.setdefault(number, {"columns": [], "table": other, "references": [], "on_delete": on_delete.lower(), "on_update": on_update.lower()})
            entry["columns"].append(own)
            entry["references"].append(theirs)
        deferred = len(re.findall(r"DEFERRABLE INITIALLY DEFERRED", sql, re.I))
        for entry in keys.values():
            entry["deferrable"] = "initially-deferred" if deferred >= len(keys) and deferred else None
            table["foreign_keys"].append(entry)
        for _, index, unique, origin, partial in connection.execute(f"PRAGMA index_list({quoted})"):
            if origin == "pk":
                continue
            escaped = '"' + index.replace('"', '""') + '"'
            parts = [
                {"column": column, "expression": column is None, "descending": bool(descending), "class": None}
                for _, _, column, descending, _, in_key in connection.execute(f"PRAGMA index_xinfo({escaped})")
                if in_key
            ]
            if origin == "u":
                table["uniques"].append({"columns": [part["column"] for part in parts], "as": "constraint", "deferrable": None, "nulls": False})
            else:
                table["indexes"].append({"parts": parts, "unique": bool(unique), "nulls": False, "partial": bool(partial), "method": None, "include": []})
    connection.close()
    return tables
