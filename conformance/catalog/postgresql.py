"""The catalog of PostgreSQL, from pg_catalog."""

from . import default_value, empty


def read(connection, schema="public"):
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
            "type": kind.replace('"', ""),
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
