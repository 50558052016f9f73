"""Reads the catalog of a live database into plain facts. Shares no code with Sprachbund.

A catalog is a dict: table -> {"columns": {name: {...}}, "key": [...], "uniques": [...], "indexes": [...],
"foreign_keys": [...], "checks": n}. Names of constraints and indexes are left out: frameworks make them.
"""

import re
import sqlite3


def postgresql(connection, schema="public"):
    tables = {}
    cursor = connection.cursor()
    cursor.execute(
        """SELECT c.oid, c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
           WHERE n.nspname = %s AND c.relkind = 'r' ORDER BY 2""",
        [schema],
    )
    oids = dict(cursor.fetchall())
    for name in oids.values():
        tables[name] = empty()
    cursor.execute(
        """SELECT a.attrelid, a.attnum, a.attname, format_type(a.atttypid, a.atttypmod), a.attnotnull, a.attidentity,
                  a.attgenerated, pg_get_expr(d.adbin, d.adrelid), col_description(a.attrelid, a.attnum)
           FROM pg_attribute a LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
           WHERE a.attrelid = ANY(%s) AND a.attnum > 0 AND NOT a.attisdropped""",
        [list(oids)],
    )
    names = {}
    for oid, number, name, kind, not_null, identity, generated, default, comment in cursor.fetchall():
        names[oid, number] = name
        sequence = bool(default and default.startswith("nextval("))
        how = {"a": "always", "d": "by-default"}.get(identity, "sequence" if sequence else None)
        tables[oids[oid]]["columns"][name] = {
            "type": kind,
            "null": not not_null,
            "identity": how,
            "generated": bool(generated),
            "default": None if generated or sequence else default_value(default),
            "comment": comment,
        }
    cursor.execute(
        """SELECT conrelid, contype, conkey, confrelid, confkey, confdeltype, confupdtype, condeferrable, condeferred,
                  COALESCE((SELECT indnullsnotdistinct FROM pg_index WHERE indexrelid = conindid), false)
           FROM pg_constraint WHERE conrelid = ANY(%s)""",
        [list(oids)],
    )
    actions = {"a": "no action", "r": "restrict", "c": "cascade", "n": "set null", "d": "set default"}
    for oid, kind, key, other, other_key, on_delete, on_update, deferrable, deferred, nulls in cursor.fetchall():
        table = tables[oids[oid]]
        columns = [names[oid, number] for number in key or []]
        when = "initially-deferred" if deferred else "initially-immediate" if deferrable else None
        if kind == "p":
            table["key"] = columns
        elif kind == "u":
            table["uniques"].append({"columns": columns, "as": "constraint", "deferrable": when, "nulls": nulls})
        elif kind == "f":
            table["foreign_keys"].append(
                {
                    "columns": columns,
                    "table": oids[other],
                    "references": [names[other, number] for number in other_key],
                    "on_delete": actions[on_delete],
                    "on_update": actions[on_update],
                    "deferrable": when,
                }
            )
        elif kind == "c":
            table["checks"] += 1
        elif kind == "x":
            table["exclusions"] += 1
    cursor.execute(
        """SELECT i.indrelid, i.indisunique, i.indnullsnotdistinct, m.amname, pg_get_expr(i.indpred, i.indrelid) IS NOT NULL,
                  i.indnkeyatts, i.indnatts,
                  ARRAY(SELECT pg_get_indexdef(i.indexrelid, k, true) FROM generate_series(1, i.indnatts) k),
                  i.indkey::int[], i.indoption::int[],
                  ARRAY(SELECT o.opcname FROM unnest(i.indclass::oid[]) WITH ORDINALITY u(id, n) JOIN pg_opclass o ON o.oid = u.id ORDER BY n),
                  ARRAY(SELECT o.opcdefault FROM unnest(i.indclass::oid[]) WITH ORDINALITY u(id, n) JOIN pg_opclass o ON o.oid = u.id ORDER BY n)
           FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid JOIN pg_am m ON m.oid = c.relam
           WHERE i.indrelid = ANY(%s)
             AND NOT EXISTS (SELECT 1 FROM pg_constraint k WHERE k.conindid = i.indexrelid AND k.contype IN ('p', 'u', 'x'))""",
        [list(oids)],
    )
    for oid, unique, nulls, method, partial, keys, _all, texts, numbers, options, classes, defaults in cursor.fetchall():
        parts, include = [], []
        for at, (text, number) in enumerate(zip(texts, numbers)):
            column = names.get((oid, number))
            if at >= keys:
                include.append(column)
                continue
            parts.append(
                {
                    "column": column,
                    "expression": column is None,
                    "descending": bool(options[at] & 1),
                    "class": None if defaults[at] else classes[at],
                }
            )
        tables[oids[oid]]["indexes"].append(
            {"parts": parts, "unique": unique, "nulls": nulls, "partial": partial, "method": None if method == "btree" else method, "include": include}
        )
    return tables


def sqlite(path):
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
                "type": re.sub(r"\s+generated always$", "", kind.lower().replace(" ", " ")),
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


def empty():
    return {"columns": {}, "key": [], "uniques": [], "indexes": [], "foreign_keys": [], "checks": 0, "exclusions": 0}


FUNCTIONS = {
    "now()": "now",
    "current_timestamp": "now",
    "datetime('now')": "now",
    "strftime('%y-%m-%d %h:%m:%f', 'now')": "now",
    "statement_timestamp()": "statement-now",
    "current_date": "today",
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
    quoted = re.fullmatch(r"'((?:[^']|'')*)'(::[\w \[\]\".(),]+)?", text, re.S)
    if quoted:
        text = quoted.group(1).replace("''", "'")
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
