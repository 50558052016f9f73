"""The database servers: an empty database for each case, its address for everybody, its facts read independently."""

import os
import pathlib
import sqlite3
import subprocess

import psycopg
import pymysql

import catalog.mariadb
import catalog.mysql
import catalog.postgresql
import catalog.sqlite

WORK = pathlib.Path(__file__).parent.parent / ".work" / "conformance"


def scratch(name):
    """A file that no other process writes."""
    folder = WORK / "scratch" / str(os.getpid())
    folder.mkdir(parents=True, exist_ok=True)
    return folder / name


def plain(case):
    return "".join(letter if letter.isalnum() else "_" for letter in case.lower())


class Postgresql:
    """The newest release that can be had."""

    name = "postgresql"
    port = os.environ.get("POSTGRESQL_PORT")

    def __init__(self, case):
        self.database = ("c_" + plain(case))[:63]
        with self.session("postgres") as admin:
            admin.execute(f'DROP DATABASE IF EXISTS "{self.database}"')
            admin.execute(f'CREATE DATABASE "{self.database}"')
        with self.session(self.database) as connection:
            for extension in ("uuid-ossp", "citext", "hstore", "btree_gist"):
                connection.execute(f'CREATE EXTENSION IF NOT EXISTS "{extension}"')

    @classmethod
    def release(cls):
        with psycopg.connect(host="127.0.0.1", port=cls.port, user="harbour", dbname="postgres") as connection:
            return "PostgreSQL " + connection.execute("SHOW server_version").fetchone()[0].split()[0]

    def session(self, database):
        return psycopg.connect(host="127.0.0.1", port=self.port, user="harbour", dbname=database, autocommit=True)

    def for_django(self):
        return f"postgresql:127.0.0.1:{self.port}:harbour:{self.database}"

    def address(self):
        return f"postgresql://harbour@127.0.0.1:{self.port}/{self.database}"

    for_typeorm = address

    def script(self, text):
        with self.session(self.database) as connection:
            connection.execute(text)

    def facts(self):
        with self.session(self.database) as connection:
            return catalog.postgresql.read(connection)


class Postgresql15(Postgresql):
    """The release of the system."""

    port = os.environ.get("POSTGRESQL_15_PORT")


class Mariadb:
    """The newest release that can be had; MySQL is reached in the same way."""

    name, title = "mariadb", "MariaDB"
    port = os.environ.get("MARIADB_PORT")
    read = staticmethod(catalog.mariadb.read)

    def __init__(self, case):
        self.database = ("c_" + plain(case))[:64]
        with self.session(None) as admin:
            admin.cursor().execute(f"DROP DATABASE IF EXISTS `{self.database}`")
            admin.cursor().execute(f"CREATE DATABASE `{self.database}` CHARACTER SET utf8mb4")

    @classmethod
    def release(cls):
        with pymysql.connect(host="127.0.0.1", port=int(cls.port), user="harbour") as connection:
            cursor = connection.cursor()
            cursor.execute("SELECT VERSION()")
            return f"{cls.title} {cursor.fetchone()[0].split('-')[0]}"

    def session(self, database):
        return pymysql.connect(host="127.0.0.1", port=int(self.port), user="harbour", database=database, charset="utf8mb4")

    def for_django(self):
        return f"{self.name}:127.0.0.1:{self.port}:harbour:{self.database}"

    def address(self):
        return f"{self.name}://harbour@127.0.0.1:{self.port}/{self.database}"

    for_typeorm = address

    def script(self, text):
        command = ["mariadb", "--no-defaults", "--default-character-set=utf8mb4", "-h127.0.0.1", f"-P{self.port}", "-uharbour", self.database]
        subprocess.run(command, input=text, text=True, check=True)

    def facts(self):
        with self.session(self.database) as connection:
            return self.read(connection)


class Mariadb10(Mariadb):
    """The release of the system."""

    port = os.environ.get("MARIADB_10_PORT")


class Mysql(Mariadb):
    name, title = "mysql", "MySQL"
    port = os.environ.get("MYSQL_PORT")
    read = staticmethod(catalog.mysql.read)


class Sqlite:
    name = "sqlite"

    @classmethod
    def release(cls):
        return "SQLite " + sqlite3.sqlite_version

    def __init__(self, case):
        self.path = WORK / (plain(case) + ".sqlite3")
        self.path.unlink(missing_ok=True)

    def for_django(self):
        return f"sqlite:{self.path}"

    address = for_typeorm = for_django

    def script(self, text):
        with sqlite3.connect(self.path) as connection:
            connection.executescript(text)

    def facts(self):
        return catalog.sqlite.read(self.path)


# By the names that cases give them; those with a number are older ones, for what differs.
SERVERS = {
    "postgresql": Postgresql,
    "postgresql-15": Postgresql15,
    "mariadb": Mariadb,
    "mariadb-10": Mariadb10,
    "mysql": Mysql,
    "sqlite": Sqlite,
}
# What could not be had here.
ABSENT = {label for label, server in SERVERS.items() if getattr(server, "port", "file") in (None, "")}
