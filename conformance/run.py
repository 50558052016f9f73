"""Runs every conformance case and writes docs/conformance.md. Started by conformance/run."""

import json
import os
import pathlib
import shutil
import subprocess
import sys

import psycopg

import catalog
import expected
import selftest

HERE = pathlib.Path(__file__).parent
ROOT = HERE.parent
WORK = ROOT / ".work" / "conformance"
SERVER = dict(part.split("=", 1) for part in sys.argv[1].split())
SPRACHBUND = sys.argv[2]

# Per case: name, dialect, declarations, applications (Django) or compiled entities (packages for TypeORM), databases, key
# class, options for reading.
CASES = [
    ("demo register", "django", ROOT / "demo/django", ["harbour"], ["postgresql", "sqlite"], "BigAutoField", []),
    ("demo register", "typeorm", ROOT / "demo/typeorm", None, ["postgresql"], None, []),
    ("every construct", "django", HERE / "cases/django/everything", ["django.contrib.contenttypes", "django.contrib.auth", "wharf"], ["postgresql", "sqlite"], "AutoField", []),
    ("PostgreSQL only", "django", HERE / "cases/django/postgresql", ["django.contrib.postgres", "pier"], ["postgresql"], "AutoField", []),
    ("every construct", "typeorm", HERE / "cases/typeorm/everything", None, ["postgresql"], None, []),
    ("every construct, SQLite", "typeorm", HERE / "cases/typeorm/everything-sqlite", None, ["sqlite"], None, []),
]

SITE = pathlib.Path(next(path for path in sys.path if path.endswith("site-packages")))
CONTRIB = ["contenttypes", "auth", "admin", "sessions", "sites", "flatpages", "redirects"]
WAGTAIL = [
    "admin", "contrib.forms", "contrib.redirects", "contrib.search_promotions", "contrib.settings", "contrib.simple_translation",
    "documents", "embeds", "images", "locales", "search", "sites", "snippets", "users", "",
]
CASES += [
    (
        "Django's own applications",
        "django",
        [SITE / "django/contrib" / app for app in CONTRIB],
        ["django.contrib." + app for app in CONTRIB],
        ["postgresql", "sqlite"],
        "AutoField",
        [],
    ),
    (
        "Wagtail " + __import__("importlib.metadata").metadata.version("wagtail"),
        "django",
        [SITE / "wagtail/models", SITE / "wagtail/apps.py", SITE / "taggit"]
        + [SITE / "wagtail" / app.replace(".", "/") for app in WAGTAIL if app not in ("", "search")],
        [("wagtail." + app).rstrip(".") for app in WAGTAIL] + ["taggit", "django.contrib.contenttypes", "django.contrib.auth"],
        ["postgresql"],
        "AutoField",
        ["--follow", SITE],
    ),
]

PACKAGE = WORK / "node_modules/@veramo/data-store"
# Of its two classes over the table `key` the one that its migrations alone use is left out.
ENTITIES = ["claim", "credential", "identifier", "key", "message", "presentation", "private-key", "service"]
CASES += [
    (
        "@veramo/data-store 7.0.1",
        "typeorm",
        [PACKAGE / f"src/entities/{name}.ts" for name in ENTITIES],
        [PACKAGE / f"build/entities/{name}.js" for name in ENTITIES],
        ["postgresql", "sqlite"],
        None,
        ["--follow", WORK / "node_modules"],
    )
]

# Tables whose classes are chosen at run time by the kind of server, so that nothing can be known of them from the text: by
# case. The files that choose them are not among the inputs.
LEFT_OUT = {
    "Wagtail 8.0.1, django on postgresql": (
        ["wagtailsearch_indexentry", "wagtailsearch_indexentry_fts"],
        "the base of the class is chosen at run time by the kind of server",
    )
}


def run(*command, **options):
    done = subprocess.run([str(part) for part in command], capture_output=True, text=True, **options)
    if done.returncode not in options.get("allowed", (0, 1)):
        raise SystemExit(f"{' '.join(map(str, command))}\n{done.stdout}\n{done.stderr}")
    return done


class Postgresql:
    name = "postgresql"

    def __init__(self, case):
        self.database = "c_" + "".join(letter if letter.isalnum() else "_" for letter in case.lower())
        with psycopg.connect(host=SERVER["host"], port=SERVER["port"], user=SERVER["user"], dbname="postgres", autocommit=True) as admin:
            admin.execute(f'DROP DATABASE IF EXISTS "{self.database}"')
            admin.execute(f'CREATE DATABASE "{self.database}"')
        with self.connect() as connection:
            for extension in ("uuid-ossp", "citext", "hstore", "btree_gist"):
                connection.execute(f'CREATE EXTENSION IF NOT EXISTS "{extension}"')

    def connect(self):
        return psycopg.connect(host=SERVER["host"], port=SERVER["port"], user=SERVER["user"], dbname=self.database, autocommit=True)

    def for_django(self):
        return f"host={SERVER['host']} port={SERVER['port']} user={SERVER['user']} dbname={self.database}"

    def for_typeorm(self):
        return f"postgres://{SERVER['user']}@{SERVER['host']}:{SERVER['port']}/{self.database}"

    def script(self, text):
        with self.connect() as connection:
            connection.execute(text)

    def catalog(self):
        with self.connect() as connection:
            return catalog.postgresql(connection)


class Sqlite:
    name = "sqlite"

    def __init__(self, case):
        self.path = WORK / ("".join(letter if letter.isalnum() else "_" for letter in case) + ".sqlite3")
        self.path.unlink(missing_ok=True)

    def for_django(self):
        return f"sqlite:{self.path}"

    for_typeorm = for_django

    def script(self, text):
        import sqlite3

        with sqlite3.connect(self.path) as connection:
            connection.executescript(text)

    def catalog(self):
        return catalog.sqlite(self.path)


SERVERS = {"postgresql": Postgresql, "sqlite": Sqlite}


def make(dialect, folder, server, apps, key_class, check):
    """Lets the real framework create the tables; returns what it complained about, or nothing."""
    if dialect == "django":
        command = [sys.executable, HERE / "django_make.py", WORK if isinstance(folder, list) else folder, ",".join(apps), server.for_django(), key_class]
        done = subprocess.run([str(part) for part in command + (["--check"] if check else [])], capture_output=True, text=True, cwd=HERE)
    elif isinstance(folder, list):
        done = typeorm(server, apps)
    else:
        built = WORK / "built" / ("_".join(pathlib.Path(folder).parts[-3:]) + server.name)
        shutil.rmtree(built, ignore_errors=True)
        sources = [str(path) for path in pathlib.Path(folder).rglob("*.ts")]
        options = json.loads((HERE / "tsconfig.json").read_text())["compilerOptions"]
        project = WORK / "tsconfig.json"
        options["typeRoots"] = [str(WORK / "node_modules/@types")]
        options["baseUrl"] = str(WORK)
        options["paths"] = {"*": [str(WORK / "node_modules/*"), str(WORK / "node_modules/@types/*")]}
        project.write_text(json.dumps({"compilerOptions": {**options, "outDir": str(built), "rootDir": str(folder)}, "files": sources}))
        done = subprocess.run(["node", str(WORK / "node_modules/typescript/lib/tsc.js"), "-p", str(project)], capture_output=True, text=True)
        if done.returncode == 0:
            done = typeorm(server, [built])
    return None if done.returncode == 0 else (done.stdout + done.stderr).strip()


def typeorm(server, places):
    environment = {**os.environ, "NODE_PATH": str(WORK / "node_modules")}
    command = ["node", HERE / "typeorm_make.js", server.for_typeorm(), *places]
    return subprocess.run([str(part) for part in command], capture_output=True, text=True, env=environment)


def inputs(folder):
    return folder if isinstance(folder, list) else [folder]


def parse(folder, dialect, database, options):
    out = WORK / "schema.json"
    out.unlink(missing_ok=True)
    run(SPRACHBUND, "parse", *inputs(folder), "--from", dialect, "--database", database, "--out", out, *options)
    return json.loads(out.read_text())


def without(tables, apps):
    """The tables of the case itself, not of the framework's applications that it refers to."""
    apps = [app for app in apps or [] if isinstance(app, str)]
    prefixes = tuple(app.removeprefix("django.contrib.").replace("contenttypes", "django_content_type") for app in apps if app.startswith("django.contrib."))
    prefixes = tuple(prefix + "_" if prefix == "auth" else prefix for prefix in prefixes)
    if not prefixes or len(prefixes) == len(apps):
        return tables
    return {name: table for name, table in tables.items() if not name.startswith(prefixes)}


def own(tables, foreign):
    """Without tables of other packages and the framework's own bookkeeping."""
    return {name: table for name, table in tables.items() if name not in foreign}


def known(case, fact):
    """The reason why a fact cannot agree, if it is known."""
    tables, reason = LEFT_OUT.get(case, ([], None))
    return reason if fact[0] in tables else None


class Report:
    def __init__(self):
        self.rows, self.faults, self.excused = [], [], []

    def compare(self, case, what, promised, found, ignore=()):
        """Promised facts against found ones; returns how many tables agree wholly."""
        promised, found = expected.facts(promised), expected.facts(found)
        differing = sorted(promised ^ found)
        bad = []
        for fact in differing:
            side = "promised" if fact in promised else "found"
            reason = known(case, fact)
            if fact[0] in ignore:
                continue
            (self.excused if reason else bad).append((case, what, side, *fact, reason))
        total = len(found | promised)
        self.rows.append((case, what, total, total - len({fact[1:] for fact in differing}), len(bad)))
        self.faults += bad
        state = "agree" if not bad else f"{len(bad)} DIFFER"
        print(f"{case}: {what}: {total} facts, {state}")
        for fault in bad[:400]:
            print("   ", *fault[2:7], sep=" | ")


def main():
    WORK.mkdir(parents=True, exist_ok=True)
    report = Report()
    for name, dialect, folder, apps, databases, key_class, options in CASES:
        for database in databases:
            case = f"{name}, {dialect} on {database}"
            server = SERVERS[database](case)
            fault = make(dialect, folder, server, apps, key_class, False)
            if fault:
                report.faults.append((case, "create", "", fault, "", "", None))
                print(f"{case}: the framework refuses: {fault[:2000]}")
                continue
            schema = parse(folder, dialect, database, options)
            source = own(without(server.catalog(), apps), ["typeorm_metadata"])
            report.compare(case, "read", expected.catalog(schema, database), source)
            if case == "demo register, django on postgresql":
                selftest.run(expected.catalog(schema, database), source)
            across(report, case, dialect, folder, database, options, own(source, LEFT_OUT.get(case, [[]])[0]), schema)
    write(report)
    if report.faults:
        raise SystemExit(f"{len(report.faults)} facts differ")
    print(f"{len(report.rows)} passed, 0 failed")


def across(report, case, dialect, folder, database, options, source, schema):
    """Emits the other dialect, lets its framework create that, and compares."""
    other = "typeorm" if dialect == "django" else "django"
    out = WORK / "emitted" / "".join(letter if letter.isalnum() else "_" for letter in case)
    shutil.rmtree(out, ignore_errors=True)
    done = run(SPRACHBUND, "emit", *inputs(folder), "--from", dialect, "--to", other, "--database", database, "--out", out, "--format", "json", *options)
    account = json.loads(done.stdout)
    server = SERVERS[database](case + " to " + other)
    modules = sorted({path.parent.name for path in out.rglob("models.py")})
    apps_file = next(iter(out.rglob("apps.py")), None)
    key_class = "BigAutoField" if apps_file and "BigAutoField" in apps_file.read_text() else "AutoField"
    for entity in schema["entities"]:
        if entity["external"] and other == "typeorm":
            columns = ", ".join(f'"{field["column"]}" {field["stored"]} NOT NULL' for field in entity["fields"])
            server.script(f'CREATE TABLE "{entity["table"]}" ({columns}, PRIMARY KEY ({", ".join(entity["primary_key"]["columns"])}))')
    foreign = [entity["table"] for entity in schema["entities"] if entity["external"]] + ["typeorm_metadata"]
    fault = make(other, out, server, modules, key_class, True)
    if fault:
        report.faults.append((case, "create emitted", "", fault, "", "", None))
        print(f"{case}: {other} refuses what was emitted: {fault[:3000]}")
        return
    emitted = parse(out, other, database, [])
    made = own(server.catalog(), foreign)
    report.compare(case, f"emitted {other}", expected.catalog(emitted, database), made)
    script = out / "after_tables.sql"
    if script.exists():
        server.script(script.read_text())
        made = own(server.catalog(), foreign)
    accounted(report, case, other, source, made, account)


# Words of the account's facts for each aspect of the catalog.
ASPECTS = {
    "type": ("type", "held as"),
    "null": ("nullable", "generated"),
    "identity": ("identity",),
    "default": ("default in the database", "purpose"),
    "comment": ("comment",),
    "generated": ("generated",),
}


def accounted(report, case, other, source, made, account):
    """Every difference between the two catalogs must be named by a loss."""
    named = {(fact["table"], fact["element"], fact["aspect"]) for loss in account["losses"] for fact in loss["facts"]}
    before, after = expected.facts(source), expected.facts(made)
    bad = []
    for fact in sorted(before ^ after):
        table, element, aspect, _ = fact
        if element == "index":
            parts = json.loads(aspect)
            columns = [part["column"] for part in parts["parts"]]
            hit = any(name[0] == table and ("index" in name[1] or name[1].startswith("unique")) and all(column is None or column in name[1] for column in columns) for name in named)
        elif element.startswith("foreign key"):
            hit = any(name[0] == table and name[1] == element and (name[2] == "" or name[2] == aspect) for name in named)
        elif element.startswith("unique"):
            hit = any(name[0] == table and element.removeprefix("unique ") in name[1] for name in named)
        elif element in ("checks", "exclusions"):
            hit = any(name[0] == table and name[1].startswith(element[:-1]) for name in named)
        elif element.startswith("column"):
            hit = any(name[0] == table and name[1] == element and (name[2] == "" or name[2] in ASPECTS.get(aspect, (aspect,))) for name in named)
        else:
            hit = any(name[0] == table and name[1] in ("", "key") for name in named)
        if not hit:
            bad.append((case, f"account to {other}", "unnamed", *fact, None))
    total = len(before | after)
    report.rows.append((case, f"account to {other}", total, total - len(bad), len(bad)))
    report.faults += bad
    print(f"{case}: account to {other}: {total} facts, {'every difference is named' if not bad else str(len(bad)) + ' UNNAMED'}")
    for fault in bad[:400]:
        print("   ", *fault[2:7], sep=" | ")


def write(report):
    lines = [
        "# Conformance",
        "",
        "Written by `conformance/run`; do not edit. Every fact of the real catalog (tables, columns, types, nullability, database",
        "defaults, identities, keys, uniques, indexes, foreign keys with their actions, numbers of checks) is compared with the",
        "schema that was parsed, and with the account of losses.",
        "",
        "| case | check | facts | disagreeing |",
        "| --- | --- | --- | --- |",
    ]
    lines += [f"| {case} | {what} | {total} | {bad} |" for case, what, total, _, bad in report.rows]
    lines += ["", "## What cannot agree", ""]
    reasons = {}
    for case, _, _, table, _, _, _, reason in report.excused:
        reasons[case, table, reason] = reasons.get((case, table, reason), 0) + 1
    lines += [f"- {case}: `{table}`, {count} facts: {reason}" for (case, table, reason), count in sorted(reasons.items())] or ["Nothing."]
    agreeing, total = sum(row[3] for row in report.rows if row[1] == "read"), sum(row[2] for row in report.rows if row[1] == "read")
    lines += ["", f"Of {total} facts of real catalogs, {100 * agreeing / total:.2f} % agree with what was read."]
    (ROOT / "docs").mkdir(exist_ok=True)
    (ROOT / "docs/conformance.md").write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()
