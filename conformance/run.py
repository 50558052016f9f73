"""Runs every conformance case and writes docs/conformance.md. Started by conformance/run."""

import dataclasses
import os
import re
import shutil
import sys
from concurrent.futures import ProcessPoolExecutor

import account
import consequences
import documents
import expected
import hostile
import judged
import selftest
import sprachbund
from cases import CASES
from frameworks import INSTALLED, is_here, make, mongoose, named, newest
from report import Report
from servers import ABSENT, SERVERS, WORK, plain

# What frameworks keep for themselves.
BOOKKEEPING = ["alembic_version", "typeorm_metadata"]
DIALECTS = ["django", "mongoose", "prisma", "sequelize", "sqlalchemy", "typeorm", "sql"]
# Older releases, and the cases that are written for them.
OLDER = ["django@4.2", "django@5.2", "mongoose@6", "prisma@5", "prisma@6", "sqlalchemy@1.4", "sqlalchemy@2.0", "typeorm@0.2", "typeorm@0.3"]
INTO_OLDER = {("demo register", "django", "postgresql"), ("every construct", "typeorm", "postgresql")}
# There it cuts names of over 63 letters, keeps documents as texts, and makes a unique constraint of a one-to-one over a key.
UNTRIED = {("typeorm@0.2", "mariadb")}
# Servers for which a dialect has no types here.
WITHOUT = {("sequelize", "mariadb"), ("sequelize", "mysql")}


def main():
    shutil.rmtree(WORK / "scratch", ignore_errors=True)
    if sys.argv[1:2] == ["hostile"]:
        return of_hostile_texts(*map(int, sys.argv[2:]))
    # Words on the command line choose cases by their titles.
    chosen = sys.argv[1:]
    runs = [
        (at, label, release)
        for at, case in enumerate(CASES)
        for label in case.databases
        for release in [None, *case.releases]
        if label not in ABSENT and (release is None or is_here(f"{case.dialect}@{release}"))
    ]
    runs = [run for run in runs if all(word in title_of(*run) for word in chosen)]
    report = Report()
    # The slow part is starting frameworks: as many at a time as there are cores, told in their order.
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        for part in pool.map(played, runs):
            report.add(part)
    if not chosen:
        report.write()
        misjudged, errors = judged.check()
        untrue, tried = consequences.check()
        if misjudged + untrue:
            raise SystemExit("\n".join(misjudged + untrue))
        of_hostile_texts()
        print(f"{errors} errors that lint finds in packages, all judged true; {tried} consequences of rules seen on the servers")
    if report.faults:
        raise SystemExit(f"{len(report.faults)} facts differ")
    print(f"{len(report.rows)} passed, 0 failed")


def of_hostile_texts(count=24, seed=20261126):
    """A sample of the texts, always the same unless another seed is given."""
    faults, tried = hostile.check(count, seed)
    if faults:
        raise SystemExit("\n".join([*faults, f"{len(faults)} faults in {tried} tries with hostile texts"]))
    where = "MySQL in two modes among them" if hostile.Mysql.port else "MySQL could not be had and was not tried"
    print(f"{tried} tries with hostile texts in ten positions: nothing left its place ({where})")


def title_of(at, label, release):
    case = CASES[at]
    return f"{case.name}, {case.dialect}{f' {release}' if release else ''} on {label}"


def played(run):
    """The report of one case on one server, made by one release of its framework."""
    at, label, release = run
    report, case = Report(), CASES[at]
    if release:
        # What other dialects make of it was seen of the installed release.
        dialect = f"{case.dialect}@{release}"
        case = dataclasses.replace(case, dialect=dialect, targets=[], key_class=case.key_class and silent_key(dialect))
    else:
        case = dataclasses.replace(case, dialect=named(case.dialect))
    check(report, title_of(at, label, release), case, label)
    return report


def targets_of(case):
    return DIALECTS if case.targets is None else case.targets


def check(report, title, case, label):
    framework = framework_of(case.dialect)
    if framework == "mongoose":
        return of_documents(report, title, case)
    server, database = SERVERS[label](title), SERVERS[label].name
    fault = make(case.dialect, case.declarations, server, case.apps, case.key_class, False)
    if fault:
        return report.refused(title, "create", fault)
    if only_validated(case.dialect, database):
        return validated(report, title, sprachbund.parse(case.declarations, database, "--from", case.dialect, *case.options))
    whole = server.facts()
    live = sprachbund.parse(server.address(), database)
    report.facts(title, "catalog", expected.catalog(live, database), whole)
    schema = sprachbund.parse(case.declarations, database, "--from", case.dialect, *case.options)
    source = own(of_case(whole, case.apps), BOOKKEEPING)
    verdict(report, title, schema, server, source, case.left_out)
    report.facts(title, "read", expected.catalog(schema, database), source, case.left_out)
    if title == "demo register, django on postgresql":
        selftest.run(schema, server, source)
    for target in DIALECTS:
        if target != framework and target in targets_of(case) and (target, database) not in WITHOUT:
            across(report, title, case, label, newest(target), own(source, case.left_out), schema)
    if (case.name, framework, label) in INTO_OLDER and case.targets is None:
        for target in OLDER:
            if is_here(target) and (target, label) not in UNTRIED:
                across(report, title, case, label, target, own(source, case.left_out), schema)
    if case.name == "demo register" and framework != "sqlalchemy" and case.targets is None:
        emitted(report, f"{title}, classic style", case, label, newest("sqlalchemy"), [], ["--style", "classic"])


def silent_key(dialect):
    """The class of a key of Django that no file says."""
    return "BigAutoField" if dialect.startswith("django@6") else "AutoField"


def framework_of(dialect):
    return dialect.partition("@")[0]


def of_documents(report, title, case):
    """Documents have no catalog: what the framework reports of its models stands for it."""
    models, fault = mongoose(case.dialect, case.declarations, case.apps)
    if fault:
        return report.refused(title, "load", fault)
    schema = sprachbund.parse(case.declarations, "mongodb", "--from", case.dialect, *case.options)
    report.sets(title, "read", documents.promised(schema), documents.reported(models), case.left_out)
    for database in ("postgresql", "sqlite"):
        for target in DIALECTS:
            if target != "mongoose" and target in targets_of(case):
                emitted(report, f"{case.name}, mongoose for {database}", case, database, newest(target), [])


def into_documents(report, title, case, database, out, target):
    """What is emitted as documents, by what the framework makes of it."""
    models, fault = mongoose(target, out, None)
    if fault:
        return report.refused(title, f"emitted {target}", fault)
    schema = sprachbund.parse(out, "mongodb", "--from", target)
    report.sets(title, f"emitted {target}", documents.promised(schema), documents.reported(models))


def verdict(report, title, schema, server, tables, left_out=()):
    """What `compare` says of the declarations and the live database."""
    found = sprachbund.compare(schema, server.address(), server.name)
    known = set(tables) | {entity["table"] for entity in schema["entities"] if entity["mapped"]["table"]}
    bad = [(each["code"], each["message"]) for each in found if each["table"] in known and each["table"] not in left_out]
    total = len(expected.facts(tables))
    report.row(title, "compare", total, total - len(bad), bad)


def across(report, title, case, label, target, source, schema):
    """Emits another dialect, lets its framework create that, and compares."""
    external = [entity for entity in schema["entities"] if entity["external"]]
    done = emitted(report, title, case, label, target, external)
    if done is None:
        return
    server, made, losses, out = done
    foreign = [entity["table"] for entity in external] + BOOKKEEPING
    script = out / "after_tables.sql"
    if script.exists():
        try:
            server.script(script.read_text())
        except Exception as error:
            return report.refused(title, f"after the tables of {target}", str(error))
        made = own(of_case(server.facts(), case.apps), foreign)
    total, unnamed = account.unnamed(source, made, losses)
    report.row(title, f"account to {target}", total, total - len(unnamed), unnamed)


def emitted(report, title, case, label, target, external, more=()):
    """Emits another dialect, and holds what its framework creates against what was promised; what is needed to go on."""
    database = SERVERS[label].name
    out = WORK / "emitted" / plain(title + target)
    shutil.rmtree(out, ignore_errors=True)
    losses = sprachbund.emit(case.declarations, case.dialect, target, database, out, *case.options, *more)
    if framework_of(target) == "mongoose":
        return into_documents(report, title, case, database, out, target)
    server = SERVERS[label](f"{title} to {target}")
    # The framework's own applications that a case refers to, where it stays with its framework.
    contrib = [app for app in case.apps or [] if framework_of(case.dialect) == framework_of(target) and app.startswith("django.contrib.")]
    modules = contrib + sorted({path.parent.name for path in out.rglob("models.py")})
    apps_file = next(iter(out.rglob("apps.py")), None)
    key_class = re.search(r"\w*AutoField", apps_file.read_text())[0] if apps_file else silent_key(target)
    if framework_of(target) != "django":
        server.script("".join(key_only(entity, database) for entity in external))
    fault = make(target, out, server, modules, key_class, True, [entity["table"] for entity in external])
    if fault:
        return report.refused(title, f"emitted {target}", fault)
    if only_validated(target, database):
        return validated(report, f"{title} to {target}", sprachbund.parse(out, database, "--from", target))
    foreign = [entity["table"] for entity in external] + BOOKKEEPING
    found = sprachbund.parse(out, database, "--from", target)
    made = own(of_case(server.facts(), case.apps if contrib else None), foreign)
    verdict(report, title + " to " + target, found, server, made)
    report.facts(title, f"emitted {target}", own(expected.catalog(found, database), foreign), made)
    return server, made, losses, out


def only_validated(dialect, database):
    """The engine of Prisma that npm carries makes no SQL for this server, or npm carries none of that release."""
    framework, _, release = dialect.partition("@")
    return framework == "prisma" and (database in ("mariadb", "mysql") or release != INSTALLED["prisma"])


def validated(report, title, schema):
    columns = sum(len(entity["fields"]) for entity in schema["entities"])
    report.row(title, "validated only, columns", columns, columns, [])


def key_only(entity, database):
    """A table of another package that the target refers to and does not make."""
    quote = "`" if database in ("mariadb", "mysql") else '"'
    columns = ", ".join(f"{quote}{field['column']}{quote} {field['stored']} NOT NULL" for field in entity["fields"])
    return f"CREATE TABLE {quote}{entity['table']}{quote} ({columns}, PRIMARY KEY ({', '.join(entity['primary_key']['columns'])}));\n"


def of_case(tables, apps):
    """The tables of the case itself, not of the framework's applications that it refers to."""
    apps = [app for app in apps or [] if isinstance(app, str)]
    prefixes = tuple(app.removeprefix("django.contrib.").replace("contenttypes", "django_content_type") for app in apps if app.startswith("django.contrib."))
    prefixes = tuple(prefix + "_" if prefix == "auth" else prefix for prefix in prefixes)
    if not prefixes or len(prefixes) == len(apps):
        return tables
    return {name: table for name, table in tables.items() if not name.startswith(prefixes)}


def own(tables, foreign):
    return {name: table for name, table in tables.items() if name not in foreign}


if __name__ == "__main__":
    main()
