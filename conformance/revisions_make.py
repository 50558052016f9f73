"""Lets Alembic run revision scripts up to the last ones.

usage: revisions_make.py FOLDER DATABASE   (DATABASE as for sqlalchemy_make.py)
"""

import pathlib
import sys
import tempfile

import sqlalchemy
from alembic import command
from alembic.config import Config

from sqlalchemy_make import url

# What Alembic runs to learn of the database.
ENVIRONMENT = """from alembic import context

context.configure(connection=context.config.attributes["connection"])
with context.begin_transaction():
    context.run_migrations()
"""


def main(folder, database):
    with tempfile.TemporaryDirectory() as place, sqlalchemy.create_engine(url(database)).begin() as connection:
        (pathlib.Path(place) / "env.py").write_text(ENVIRONMENT)
        config = Config(attributes={"connection": connection})
        config.set_main_option("script_location", place)
        config.set_main_option("path_separator", "os")
        config.set_main_option("version_locations", folder)
        command.upgrade(config, "heads")


if __name__ == "__main__":
    main(*sys.argv[1:3])
