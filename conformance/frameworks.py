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


def make(dialect, folder, server, apps, key_class, emitted, external=()):
    """Creates the tables of declarations; returns what the framework (or the server) complained about, or nothing."""
    if dialect == "sql":
        return script(server, (folder / "schema.sql").read_text())
    if dialect == "prisma":
        return prisma(folder, server, emitted, external)
    dialect, _, release = dialect.partition("@")
    if dialect == "django":
        done = django(folder, server, apps, key_class, emitted, release)
    elif dialect == "sqlalchemy":
        done = sqlalchemy(folder, server, apps)
    elif dialect == "sequelize":
        done = sequelize(folder, server, apps)
    else:
        done = typeorm(folder, server, apps)
    return None if done.returncode == 0 else (done.stdout + done.stderr).strip()


def prisma(folder, server, emitted, external):
    places = folder if isinstance(folder, list) else [folder]
    provider = "mysql" if server.name in ("mariadb", "mysql") else server.name
    command = ["node", HERE / "prisma_make.mjs", WORK, provider, "emitted" if emitted else "given", ",".join(external), *places]
    done = run(command)
    return script(server, done.stdout) if done.returncode == 0 else (done.stdout + done.stderr).strip()


def script(server, text):
    try:
        server.script(text)
    except Exception as error:
        return str(error)
    return None


def django(folder, server, apps, key_class, check, release=""):
    python = WORK / f"python-django-{release}/bin/python" if release else sys.executable
    command = [python, HERE / "django_make.py", WORK if isinstance(folder, list) else folder, ",".join(apps), server.for_django(), key_class]
    return run(command + (["--check"] if check else []), cwd=HERE)


def sqlalchemy(folder, server, modules):
    if not isinstance(folder, list) and not any(pathlib.Path(folder).rglob("models.py")):
        return run([sys.executable, HERE / "revisions_make.py", folder, server.for_django()], cwd=HERE)
    if modules is None or not all("." in module for module in modules):
        names = modules or sorted(path.parent.name for path in pathlib.Path(folder).rglob("models.py"))
        modules = [f"{name}.models" for name in names]
    return run([sys.executable, HERE / "sqlalchemy_make.py", WORK if isinstance(folder, list) else folder, ",".join(modules), server.for_django()], cwd=HERE)


def typeorm(folder, server, apps):
    places = apps if isinstance(folder, list) else [scratch("built") / ("_".join(pathlib.Path(folder).parts[-3:]) + server.name)]
    if not isinstance(folder, list):
        compiled = compile_typescript(folder, places[0])
        if compiled.returncode:
            return compiled
    environment = {**os.environ, "NODE_PATH": str(WORK / "node_modules")}
    return run(["node", HERE / "typeorm_make.js", server.for_typeorm(), *places], env=environment)


def sequelize(folder, server, apps):
    """Files of JavaScript as they are; those of TypeScript compiled."""
    places = apps or folder
    places = places if isinstance(places, list) else [places]
    if not apps and any(any(pathlib.Path(place).rglob("*.ts")) for place in places):
        places = [scratch("built") / ("_".join(pathlib.Path(folder).parts[-3:]) + "sequelize" + server.name)]
        compiled = compile_typescript(folder, places[0])
        if compiled.returncode:
            return compiled
    modules = os.pathsep.join([str(WORK / "node_modules"), str(WORK / "taken/modules")])
    environment = {**os.environ, "NODE_PATH": modules, **REGISTERS_WITH}
    return run(["node", HERE / "sequelize_make.js", server.for_typeorm(), *places], env=environment)


def mongoose(folder, apps):
    """What Mongoose reports of models; a complaint instead, or nothing."""
    places = apps or folder
    places = places if isinstance(places, list) else [places]
    if not apps and any(any(pathlib.Path(place).rglob("*.ts")) for place in places):
        places = [scratch("built") / ("_".join(pathlib.Path(folder).parts[-3:]) + "mongoose")]
        compiled = compile_typescript(folder, places[0])
        if compiled.returncode:
            return {}, (compiled.stdout + compiled.stderr).strip()
    modules = os.pathsep.join([str(WORK / "node_modules"), str(WORK / "taken/modules")])
    # Packages may write logs where they are run.
    done = run(["node", HERE / "mongoose_report.js", *places], cwd=WORK, env={**os.environ, "NODE_PATH": modules})
    if done.returncode:
        return {}, (done.stdout + done.stderr).strip()
    return json.loads(done.stdout.splitlines()[-1]), None


def compile_typescript(folder, built):
    shutil.rmtree(built, ignore_errors=True)
    sources = [str(path) for path in pathlib.Path(folder).rglob("*.ts")]
    options = json.loads((HERE / "tsconfig.json").read_text())["compilerOptions"]
    modules = str(WORK / "node_modules")
    options |= {
        "typeRoots": [modules + "/@types"],
        "baseUrl": str(WORK),
        "paths": {"*": [modules + "/*", modules + "/@types/*"]},
        "outDir": str(built),
        "rootDir": str(folder),
    }
    project = scratch("tsconfig.json")
    project.write_text(json.dumps({"compilerOptions": options, "files": sources}))
    return run(["node", modules + "/typescript/lib/tsc.js", "-p", project])


def run(command, **options):
    return subprocess.run([str(part) for part in command], capture_output=True, text=True, **options)
