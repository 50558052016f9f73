"""The catalog of MySQL, from SHOW and information_schema."""

import re

from . import default_value, empty
from .mariadb import WIDTHS, foreign_keys, indexes

# Types whose defaults stand as they are; those of others are texts.
PLAIN = ("tinyint", "smallint", "mediumint", "int", "bigint", "decimal", "float", "double", "bit")


def read(connection):
    tables = {}
    cursor = connection.cursor()

    def rows(query):
        cursor.execute(query)
        return cursor.fetchall()

    for name, kind in rows("SHOW FULL TABLES"):
        if kind == "BASE TABLE":
            tables[name] = empty()
    checks = """SELECT table_name FROM information_schema.table_constraints
                WHERE constraint_schema = DATABASE() AND constraint_type = 'CHECK' AND enforced = 'YES'"""
    for (table,) in rows(checks):
        tables[table]["checks"] += 1
    for name, table in tables.items():
        quoted = "`" + name.replace("`", "``") + "`"
        for column, kind, _, null, key, default, extra, _, comment in rows(f"SHOW FULL COLUMNS FROM {quoted}"):
            generated = re.search(r"(STORED|VIRTUAL) GENERATED", extra) is not None
            if key == "PRI":
                table["key"].append(column)
            table["columns"][column] = {
                "type": WIDTHS.sub(r"\1", kind),
                "null": null == "YES",
                "identity": "by-default" if "auto_increment" in extra else None,
                "generated": generated,
                "default": None if generated else spelt(default, kind, extra),
                "comment": comment or None,
            }
        for index in indexes(rows(f"SHOW INDEX FROM {quoted}")):
            for part in index["parts"]:
                part["expression"] = part["column"] is None
            if index.pop("primary"):
                table["key"] = [part["column"] for part in index["parts"]]
            elif index["unique"] and not any(part["expression"] for part in index["parts"]):
                table["uniques"].append({"columns": [part["column"] for part in index["parts"]], "as": "constraint", "deferrable": None, "nulls": False})
            else:
                table["indexes"].append(index)
    foreign_keys(rows, tables)
    return tables


def spelt(default, kind, extra):
    """A default as SQL, in the one spelling of all catalogs."""
    if default is None:
        return None
    if "DEFAULT_GENERATED" in extra:
        text = re.sub(r"\\(.)", r"\1", default)
        text = re.sub(r"_(utf8mb4|latin1)'", "'", text)
        return default_value(re.sub(r"^(current_timestamp|now)(\(\d*\))?$", "now()", text, flags=re.I))
    if kind.startswith(PLAIN):
        return default_value(default)
    return default_value("'" + default.replace("'", "''") + "'")
