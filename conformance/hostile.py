"""Texts that try to leave their place: in ten positions of a schema, through every dialect and out of it again.

What is written must be valid in its language, have the shape that it has for harmless texts, and make on the real servers the names
and values that were meant, beside a table that nobody may touch. usage: run.py hostile [HOW MANY TEXTS] [SEED].
"""

import ast
import itertools
import json
import os
import random
import shutil
import subprocess

import pymysql

import sprachbund
from cases import MODULES
from servers import SERVERS, WORK

HARMLESS = "mole"
OTHERWISE = "it has another shape than a harmless text has"
# Short enough for a name on every server, and of letters that each takes in a name.
TEXTS = [
    "'", '"', "`", "\\", "\\'", "\\\\'", "''", '""', "``", "it's", 'say "ahoy"', "'; DROP TABLE canary; --", "\\'; DROP TABLE canary; -- x",
    '"; DROP TABLE canary; --x', "`; DROP TABLE canary; -- x", "');DROP TABLE canary;--x", "\\'), (1)); DROP TABLE canary; -- x",
    "'''", '"""', "\\n", "a\nb", "a\rb", "a\tb", "*/", "/* x", "/*! x", "-- x", "# x", "// x", "$$", "$q$", "${process.exit(7)}",
    "{{ x }}", "%s", "%(a)s", "%", "%1", "a%b", "x'; process.exit(7); '", "\"); __import__('os')._exit(7); (\"", "x = 1\n    y", "</script>",
    "]]>", "\\u0027", "\\x27", "&apos;", "fläche_m²", "½", "²", "٣", "2nd", "_", "__", "_a", "a__b", "a_", "class", "constructor",
    "toString", "None", "models", "date", "text", "uuid", "bool", "returns", "async", "select", "berth-no", "depth (m)", "a.b", "a/b",
    "..", "a:b", "a;b", "a,b", "a=b", "a@b", "[1]", "{a}", "(a", "a)", "<a>", "a|b", "a?b", "a!b", "~a", "a b", "Ａ", "ﬁ", "é", "e\u0301",
    "名", "א", "\u202ea", "a\u2028b", "a\u0085b", "a\u200db", "a\x7fb", "a\x1b[31mb", "\ufeffa", "a\xa0b", "prisma", "@@map", "@id", "///x",
]
PYTHON = {"django", "sqlalchemy"}
TYPESCRIPT = {"typeorm", "sequelize", "mongoose"}
TARGETS = [*sorted(PYTHON | TYPESCRIPT), "prisma"]


def schema(text, database):
    """A text at once in the names of a module, classes, tables, columns, an enumeration, constraints, and in values."""
    kind = text if database == "postgresql" else "kindsKind"

    def column(name, type_, **more):
        return {"name": name, "column": name, "type": type_, "nullable": False, **more}

    vessel = {
        "id": "harbour.Vessel", "name": "Vessel", "module": "harbour", "table": "vessels",
        "mapped": {"table": True, "code": True},
        "fields": [column("id", "integer")],
        "primary_key": {"columns": ["id"]},
    }
    kinds = {
        "name": kind, "stored_name": text if database == "postgresql" else None,
        "members": [{"name": text, "value": text}, {"name": "other", "value": "other " + text + " x"}],
        "module": "harbour", "inline": False,
    }
    check = {"binary": {"operator": "<>", "left": {"column": "note"}, "right": {"literal": text}}}
    hostile = {
        "id": f"harbour.{text}", "name": text, "module": "harbour", "table": text + "_t", "comment": "about " + text,
        "mapped": {"table": True, "code": True},
        "fields": [
            column("id", "integer"),
            column(text, "varchar(80)", comment="of " + text, defaults={"database": {"literal": text + "x"}, "application": None}),
            column("note", "varchar(80)", defaults={"database": {"literal": text}, "application": None}),
            column("kind", f"enum({kind})"),
            {"name": None, "column": text + "_id", "type": "integer", "nullable": False},
        ],
        "primary_key": {"columns": ["id"]},
        "uniques": [{"columns": [text], "name": (text + "_uq")[:50]}],
        "indexes": [{"parts": [{"column": "note"}], "columns": ["note"], "name": (text + "_ix")[:50]}],
        "checks": [{"name": (text + "_ck")[:50], "expression": {"language": "sql", "text": "", "tree": check}}],
        "foreign_keys": [{
            "columns": [text + "_id"], "references": {"table": "vessels", "columns": ["id"], "namespace": None},
            "on_delete": "no action", "on_update": "no action", "enforced": "database",
        }],
        "relations": [{
            "name": text + "_rel", "kind": "many-to-one", "target": "harbour.Vessel", "columns": [text + "_id"],
            "inverse": "inverse of " + text,
        }],
    }
    # The text of an expression is what its tree says.
    hostile["checks"][0]["expression"]["text"] = '"note" <> ' + "'" + text.replace("'", "''") + "'"
    return {
        "sprachbund": 1, "source": {"dialect": "typeorm", "version": "0.3", "database": database, "files": [], "assumed": []},
        "enums": [kinds], "entities": [vessel, hostile],
    }


def emitted(given, target, database, out, *options):
    shutil.rmtree(out, ignore_errors=True)
    done = subprocess.run(
        [sprachbund.PROGRAM, "emit", *given, "--to", target, "--database", database, "--out", out, *options], capture_output=True, text=True
    )
    return None if done.returncode == 0 else done.stderr.strip().splitlines()[-1]


def shape_of_python(text):
    """What stands at the top of a module and in its classes, by kinds."""
    def kinds(body):
        return sorted(
            (type(node).__name__, kinds(node.body) if isinstance(node, ast.ClassDef) else [])
            for node in body
            if not isinstance(node, (ast.Import, ast.ImportFrom)) and not (isinstance(node, ast.ClassDef) and node.name == "Meta")
        )
    return kinds(ast.parse(text).body)


def shapes(folder):
    """The shape of all Python that was emitted; raises what the language says against it."""
    return sorted(str(shape_of_python(path.read_text())) for path in folder.rglob("*.py"))


def by_node(folders):
    """What TypeScript and Prisma say of the emitted folders: shape or fault for each."""
    done = subprocess.run(["node", os.path.join(os.path.dirname(__file__), "hostile_check.mjs"), MODULES.parent], input="\n".join(map(str, folders)), capture_output=True, text=True)
    if done.returncode != 0:
        raise SystemExit(f"hostile_check.mjs: {done.stderr}")
    return [json.loads(line) for line in done.stdout.splitlines()]


class Mysql:
    """MySQL itself, where it could be had, under one of its modes."""

    port = os.environ.get("MYSQL_PORT")

    def __init__(self, mode):
        self.mode = mode

    def run(self, script):
        connection = pymysql.connect(host="127.0.0.1", port=int(self.port), user="root", charset="utf8mb4", client_flag=65536, autocommit=True)
        with connection, connection.cursor() as cursor:
            cursor.execute("DROP DATABASE IF EXISTS hostile")
            cursor.execute("CREATE DATABASE hostile CHARACTER SET utf8mb4")
            cursor.execute("USE hostile")
            cursor.execute("CREATE TABLE canary (id int)")
            cursor.execute(f"SET SESSION sql_mode = CONCAT(@@SESSION.sql_mode, ',{self.mode}')")
            cursor.execute(script)
            while cursor.nextset():
                pass
            cursor.execute("SET SESSION sql_mode = ''")
            cursor.execute("SELECT table_name, column_name, column_comment, column_default, column_type FROM information_schema.columns WHERE table_schema = 'hostile' ORDER BY 1, ordinal_position")
            return [tuple(row) for row in cursor.fetchall()]


def on_postgresql(server, script):
    server.script("DROP SCHEMA IF EXISTS public CASCADE; CREATE SCHEMA public; CREATE TABLE canary (id int)")
    server.script(script)
    with server.session(server.database) as connection:
        columns = connection.execute("SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = 'public'").fetchall()
        values = connection.execute("SELECT enumlabel FROM pg_enum e JOIN pg_type t ON t.oid = e.enumtypid JOIN pg_namespace n ON n.oid = t.typnamespace WHERE nspname = 'public'").fetchall()
        comments = connection.execute("SELECT description FROM pg_description d JOIN pg_class c ON c.oid = d.objoid JOIN pg_namespace n ON n.oid = c.relnamespace WHERE nspname = 'public'").fetchall()
    return set(columns), {row[0] for row in values}, {row[0] for row in comments}


def on_mariadb(server, script):
    with server.session(None) as admin:
        admin.cursor().execute(f"DROP DATABASE IF EXISTS `{server.database}`")
        admin.cursor().execute(f"CREATE DATABASE `{server.database}` CHARACTER SET utf8mb4")
    server.script("CREATE TABLE canary (id int);" + script)
    with server.session(server.database) as connection:
        cursor = connection.cursor()
        cursor.execute("SELECT table_name, column_name, column_comment FROM information_schema.columns WHERE table_schema = DATABASE()")
        rows = cursor.fetchall()
    return {row[:2] for row in rows}, None, {row[2] for row in rows if row[2]}


def on_sqlite(server, script):
    server.path.unlink(missing_ok=True)
    server.script("CREATE TABLE canary (id int);" + script)
    import sqlite3
    with sqlite3.connect(server.path) as connection:
        tables = [row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        columns = {(table, row[0]) for table in tables for row in connection.execute("SELECT name FROM pragma_table_info(?)", (table,))}
    return columns, None, None


RUN = {"postgresql": on_postgresql, "mariadb": on_mariadb, "sqlite": on_sqlite}


def meant(text):
    columns = {(text + "_t", name) for name in ("id", text, "note", "kind", text + "_id")}
    return columns | {("vessels", "id"), ("canary", "id")}


def faults_of_script(text, database, server, script, comments):
    """What a script did that was not meant."""
    try:
        columns, values, told = RUN[database](server, script)
    except Exception as error:  # Each driver has its own.
        yield f"refused: {str(error).splitlines()[0][:160]}"
        return
    if columns != meant(text):
        yield f"tables differ: {sorted(columns ^ meant(text))}"
    if values is not None and values and not {text, f"other {text} x"} <= values:
        yield f"values differ: {sorted(values)}"
    if comments and told is not None and f"of {text}" not in told:
        yield f"comments differ: {sorted(told)}"


def check(count, seed):
    """Faults, and how many things were tried."""
    texts = TEXTS if count >= len(TEXTS) else random.Random(seed).sample(TEXTS, count)
    base = WORK / "hostile"
    shutil.rmtree(base, ignore_errors=True)
    servers = {name: SERVERS[name]("hostile") for name in RUN}
    faults, tried, folders, wanted = [], 0, [], {}

    def fault(text, where, said):
        faults.append(f"{text!r} {where}: {said}")

    def written(text, source, target, out):
        """Holds what was written against its language; what is not Python is asked of Node, all together at the end."""
        if target not in PYTHON:
            return folders.append((text, source, target, out))
        try:
            shape = shapes(out)
            if shape != wanted.setdefault((source, target), shape):
                fault(text, f"from {source} to {target}", OTHERWISE)
        except SyntaxError as error:
            fault(text, f"from {source} to {target}", str(error))

    for at, text in enumerate([HARMLESS, *texts]):
        for database in ("postgresql", "mariadb", "mysql", "sqlite"):
            given = base / f"{at}-{database}.json"
            given.parent.mkdir(parents=True, exist_ok=True)
            given.write_text(json.dumps(schema(text, database)))
            out = base / f"{at}-{database}-sql"
            said = emitted([given], "sql", database, out)
            tried += 1
            script = None if said else (out / "schema.sql").read_bytes().decode()
            if said:
                fault(text, f"to sql on {database}", said)
            elif database == "mysql":
                for mode in ("ANSI_QUOTES", "NO_BACKSLASH_ESCAPES") if Mysql.port else ():
                    tried += 1
                    try:
                        rows = Mysql(mode).run(script)
                        made = {row[:2] for row in rows}
                        if made != meant(text):
                            fault(text, f"on mysql, {mode}", f"tables differ: {sorted(made ^ meant(text))}")
                        if not any(row[2] == f"of {text}" for row in rows):
                            fault(text, f"on mysql, {mode}", f"comments differ: {[row[2] for row in rows]}")
                    except Exception as error:  # noqa: BLE001
                        fault(text, f"on mysql, {mode}", str(error)[:160])
            else:
                for said in faults_of_script(text, database, servers[database], script, True):
                    fault(text, f"to sql on {database}", said)
            # What was emitted is an input again, and says the same.
            if script:
                again = base / f"{at}-{database}-again"
                said = emitted([out / "schema.sql"], "sql", database, again)
                tried += 1
                if said or (again / "schema.sql").read_bytes().decode() != script:
                    fault(text, f"sql on {database} read again", said or "it is another script")
        # Into every dialect, out of it to a real server, and out of it into every other.
        first = base / f"{at}-postgresql.json"
        for source in TARGETS:
            out = base / f"{at}-{source}"
            said = emitted([first], source, "postgresql", out)
            tried += 1
            if said:
                fault(text, f"to {source}", said)
                continue
            written(text, "the schema", source, out)
            if source == "mongoose":
                continue
            onward = base / f"{at}-{source}-sql"
            said = emitted([out], "sql", "postgresql", onward, "--from", source)
            tried += 1
            if said:
                fault(text, f"from {source} to sql", said)
            else:
                script = (onward / "schema.sql").read_bytes().decode()
                for said in faults_of_script(text, "postgresql", servers["postgresql"], script, False):
                    fault(text, f"from {source} to sql", said)
        for source, target in itertools.permutations(TARGETS, 2):
            onward = base / f"{at}-{source}-{target}"
            said = emitted([base / f"{at}-{source}"], target, "postgresql", onward, "--from", source)
            tried += 1
            if said:
                fault(text, f"from {source} to {target}", said)
            else:
                written(text, source, target, onward)
    for (text, source, target, _), answer in zip(folders, by_node([out for _, _, _, out in folders])):
        tried += 1
        if "fault" in answer:
            fault(text, f"from {source} to {target}", answer["fault"])
        elif answer["shape"] != wanted.setdefault((source, target), answer["shape"]):
            fault(text, f"from {source} to {target}", OTHERWISE)
    return faults, tried
