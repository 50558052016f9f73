"""The real frameworks: each lets its declarations create their tables in a database."""

import json
import os
import pathlib
import shutil
import subprocess
import sys

from servers import WORK, scratch

HERE = pathlib.Path(__file__).parent
# What packages ask of their environment.
REGISTERS_WITH = {"ABT_NODE_POSTGRES_URL": "postgresql://127.0.0.1"}


# The releases of requirements.txt and package.json, which packages of the registries are made for.
INSTALLED = {"django": "5.2", "mongoose": "8", "prisma": "7", "sequelize": "6", "sqlalchemy": "2.0", "typeorm": "0.3", "sql": ""}
# Those that stand beside them (releases/), where they could be had.
BESIDE = {path.stem: WORK / path.stem for path in sorted((HERE / "releases").iterdir())}
ABSENT = {name for name, folder in BESIDE.items() if not (folder / ".ready").exists()}


def is_here(dialect):
    """Whether a release (`django@4.2`) could be had."""
    return dialect.replace("@", "-") not in ABSENT


def newest(dialect):
    """The newest release that can be had of a framework, as `typeorm@1.1`."""
    number = lambda release: [int(part) for part in release.split(".")]
    beside = [name.partition("-")[2] for name in BESIDE if name.startswith(dialect + "-") and name not in ABSENT]
    return f"{dialect}@{max([INSTALLED[dialect], *beside], key=number)}" if INSTALLED[dialect] else dialect


def named(dialect):
    """A dialect with its release: the installed one where none is named."""
    return dialect if "@" in dialect or not INSTALLED[dialect] else f"{dialect}@{INSTALLED[dialect]}"


def folder_of(dialect):
    """The folder of a release; nothing for the installed one."""
    framework, _, release = dialect.partition("@")
    return None if release in ("", INSTALLED[framework]) else BESIDE[f"{framework}-{release}"]


def python_of(dialect):
    folder = folder_of(dialect)
    return folder / "bin/python" if folder else sys.executable


def modules_of(dialect):
    folder = folder_of(dialect)
    return ([folder / "node_modules"] if folder else []) + [WORK / "node_modules"]


def built(folder, dialect, *more):
    """Where declarations are compiled to: below the release's own packages, since those nearest to a file are taken."""
    name = "_".join([*pathlib.Path(folder).parts[-3:], dialect, *more])
    beside = folder_of(dialect)
    return beside / "built" / str(os.getpid()) / name if beside else scratch("built") / name


def make(dialect, folder, server, apps, key_class, emitted, external=()):
    """Creates the tables of declarations; returns what the framework (or the server) complained about, or nothing."""
    framework = dialect.partition("@")[0]
    if framework == "sql":
        return script(server, (folder / "schema.sql").read_text())
    if framework == "prisma":
        return prisma(dialect, folder, server, emitted, external)
    if framework == "django":
        done = django(dialect, folder, server, apps, key_class, emitted)
    elif framework == "sqlalchemy":
        done = sqlalchemy(dialect, folder, server, apps)
    elif framework == "sequelize":
        done = sequelize(folder, server, apps)
    else:
        done = typeorm(dialect, folder, server, apps)
    return None if done.returncode == 0 else (done.stdout + done.stderr).strip()


def prisma(dialect, folder, server, emitted, external):
    places = folder if isinstance(folder, list) else [folder]
    provider = "mysql" if server.name in ("mariadb", "mysql") else server.name
    command = ["node", HERE / "prisma_make.mjs", folder_of(dialect) or WORK, provider, "emitted" if emitted else "given", ",".join(external), *places]
    done = run(command)
    return script(server, done.stdout) if done.returncode == 0 else (done.stdout + done.stderr).strip()


def script(server, text):
    try:
        server.script(text)
    except Exception as error:
        return str(error)
    return None


def django(dialect, folder, server, apps, key_class, check):
    command = [python_of(dialect), HERE / "django_make.py", WORK if isinstance(folder, list) else folder, ",".join(apps), server.for_django(), key_class]
    return run(command + (["--check"] if check else []), cwd=HERE)


def sqlalchemy(dialect, folder, server, modules):
    if not isinstance(folder, list) and not any(pathlib.Path(folder).rglob("models.py")):
        return run([sys.executable, HERE / "revisions_make.py", folder, server.for_django()], cwd=HERE)
    if modules is None or not all("." in module for module in modules):
        names = modules or sorted(path.parent.name for path in pathlib.Path(folder).rglob("models.py"))
        modules = [f"{name}.models" for name in names]
    return run([python_of(dialect), HERE / "sqlalchemy_make.py", WORK if isinstance(folder, list) else folder, ",".join(modules), server.for_django()], cwd=HERE)


def typeorm(dialect, folder, server, apps):
    places = apps if isinstance(folder, list) else [built(folder, dialect, server.name)]
    if not isinstance(folder, list):
        compiled = compile_typescript(folder, places[0], dialect)
        if compiled.returncode:
            return compiled
    environment = {**os.environ, "NODE_PATH": os.pathsep.join(map(str, modules_of(dialect)))}
    return run(["node", HERE / "typeorm_make.js", server.for_typeorm(), *places], env=environment)


def sequelize(folder, server, apps):
    """Files of JavaScript as they are; those of TypeScript compiled."""
    places = apps or folder
    places = places if isinstance(places, list) else [places]
    if not apps and any(any(pathlib.Path(place).rglob("*.ts")) for place in places):
        places = [built(folder, "sequelize", server.name)]
        compiled = compile_typescript(folder, places[0], "sequelize")
        if compiled.returncode:
            return compiled
    modules = os.pathsep.join([str(WORK / "node_modules"), str(WORK / "taken/modules")])
    environment = {**os.environ, "NODE_PATH": modules, **REGISTERS_WITH}
    return run(["node", HERE / "sequelize_make.js", server.for_typeorm(), *places], env=environment)


def mongoose(dialect, folder, apps):
    """What a release of Mongoose reports of models; a complaint instead, or nothing."""
    places = apps or folder
    places = places if isinstance(places, list) else [places]
    if not apps and any(any(pathlib.Path(place).rglob("*.ts")) for place in places):
        places = [built(folder, dialect)]
        compiled = compile_typescript(folder, places[0], dialect)
        if compiled.returncode:
            return {}, (compiled.stdout + compiled.stderr).strip()
    modules = os.pathsep.join(map(str, [*modules_of(dialect), WORK / "taken/modules"]))
    # Packages may write logs where they are run.
    done = run(["node", HERE / "mongoose_report.js", *places], cwd=WORK, env={**os.environ, "NODE_PATH": modules})
    if done.returncode:
        return {}, (done.stdout + done.stderr).strip()
    return json.loads(done.stdout.splitlines()[-1]), None


def compile_typescript(folder, out, dialect):
    shutil.rmtree(out, ignore_errors=True)
    sources = [str(path) for path in pathlib.Path(folder).rglob("*.ts")]
    options = json.loads((HERE / "tsconfig.json").read_text())["compilerOptions"]
    modules = str(WORK / "node_modules")
    options |= {
        "typeRoots": [modules + "/@types"],
        "baseUrl": str(WORK),
        "paths": {"*": [f"{place}/*" for place in [*modules_of(dialect), modules + "/@types"]]},
        "outDir": str(out),
        "rootDir": str(folder),
    }
    project = scratch("tsconfig.json")
    project.write_text(json.dumps({"compilerOptions": options, "files": sources}))
    return run(["node", modules + "/typescript/lib/tsc.js", "-p", project])


def run(command, **options):
    return subprocess.run([str(part) for part in command], capture_output=True, text=True, **options)
