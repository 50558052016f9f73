"""The real frameworks: each lets its declarations create their tables in a database."""

import json
import os
import pathlib
import shutil
import subprocess
import sys

from servers import WORK

HERE = pathlib.Path(__file__).parent


def make(dialect, folder, server, apps, key_class, check):
    """Creates the tables of declarations; returns what the framework (or the server) complained about, or nothing."""
    if dialect == "sql":
        return sql(folder, server)
    done = django(folder, server, apps, key_class, check) if dialect == "django" else typeorm(folder, server, apps)
    return None if done.returncode == 0 else (done.stdout + done.stderr).strip()


def sql(folder, server):
    try:
        server.script((folder / "schema.sql").read_text())
    except Exception as error:
        return str(error)
    return None


def django(folder, server, apps, key_class, check):
    command = [sys.executable, HERE / "django_make.py", WORK if isinstance(folder, list) else folder, ",".join(apps), server.for_django(), key_class]
    return run(command + (["--check"] if check else []), cwd=HERE)


def typeorm(folder, server, apps):
    places = apps if isinstance(folder, list) else [WORK / "built" / ("_".join(pathlib.Path(folder).parts[-3:]) + server.name)]
    if not isinstance(folder, list):
        compiled = compile_typescript(folder, places[0])
        if compiled.returncode:
            return compiled
    environment = {**os.environ, "NODE_PATH": str(WORK / "node_modules")}
    return run(["node", HERE / "typeorm_make.js", server.for_typeorm(), *places], env=environment)


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
    project = WORK / "tsconfig.json"
    project.write_text(json.dumps({"compilerOptions": options, "files": sources}))
    return run(["node", modules + "/typescript/lib/tsc.js", "-p", project])


def run(command, **options):
    return subprocess.run([str(part) for part in command], capture_output=True, text=True, **options)
