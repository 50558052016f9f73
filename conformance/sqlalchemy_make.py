"""Lets SQLAlchemy create the tables of mapped classes.

usage: sqlalchemy_make.py FOLDER MODULE[,MODULE...] DATABASE
DATABASE is postgresql:HOST:PORT:USER:NAME, mariadb:HOST:PORT:USER:NAME, mysql:HOST:PORT:USER:NAME or sqlite:PATH.
"""

import importlib
import sys


def url(database):
    kind, _, rest = database.partition(":")
    if kind == "sqlite":
        return "sqlite:///" + rest
    host, port, user, name = rest.split(":")
    driver = {"postgresql": "postgresql+psycopg2", "mariadb": "mariadb+pymysql", "mysql": "mysql+pymysql"}[kind]
    return f"{driver}://{user}@{host}:{port}/{name}"


def main(folder, modules, database):
    sys.path.insert(0, folder)
    import sqlalchemy
    from sqlalchemy.orm import configure_mappers

    loaded = [importlib.import_module(module) for module in modules.split(",")]
    configure_mappers()
    found = {}
    for module in loaded:
        for value in vars(module).values():
            metadata = getattr(value, "metadata", None)
            if isinstance(metadata, sqlalchemy.MetaData):
                found[id(metadata)] = metadata
    engine = sqlalchemy.create_engine(url(database))
    with engine.begin() as connection:
        for metadata in found.values():
            tables = [table for table in metadata.tables.values() if not table.info.get("created_elsewhere") and not table.info.get("is_view")]
            metadata.create_all(connection, tables=tables)


if __name__ == "__main__":
    main(*sys.argv[1:4])
