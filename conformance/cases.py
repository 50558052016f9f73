"""What is checked: made declarations, the demo register, and packages of the registries as they are."""

import dataclasses
import importlib.metadata
import pathlib
import sys

from servers import WORK

HERE = pathlib.Path(__file__).parent
ROOT = HERE.parent
SITE = pathlib.Path(next(path for path in sys.path if path.endswith("site-packages")))
MODULES = WORK / "node_modules"
# Packages of which the files alone are wanted, without what they depend on.
TAKEN = WORK / "taken"
PACKAGE = MODULES / "@veramo/data-store"


@dataclasses.dataclass
class Case:
    name: str
    dialect: str
    # A folder, or files and folders of an installed package.
    declarations: object
    databases: list
    # Django: applications to install. SQLAlchemy: modules to load. TypeORM: compiled entities of
    # a package.
    apps: list = None
    key_class: str = None
    options: list = dataclasses.field(default_factory=list)
    # Dialects that can say it; all of them when `None`.
    targets: list = None
    # Tables whose classes are chosen at run time, so that nothing can be known of them from the text; and why.
    left_out: dict = dataclasses.field(default_factory=dict)
    # Other releases of its framework that make the same declarations, and are read for themselves.
    releases: list = dataclasses.field(default_factory=list)

    @property
    def of_others(self):
        """Whether it is a project of other people rather than made here, or a framework's own."""
        return isinstance(self.declarations, list) and not self.name.startswith("Django")


# The newest release of each server.
EVERYWHERE = ["postgresql", "mariadb", "mysql", "sqlite"]
CONTRIB = ["contenttypes", "auth", "admin", "sessions", "sites", "flatpages", "redirects"]
WAGTAIL = [
    "admin", "contrib.forms", "contrib.redirects", "contrib.search_promotions", "contrib.settings", "contrib.simple_translation",
    "documents", "embeds", "images", "locales", "search", "sites", "snippets", "users", "",
]
# Of its two classes over the table `key` the one that its migrations alone use is left out.
VERAMO = ["claim", "credential", "identifier", "key", "message", "presentation", "private-key", "service"]
BY_SERVER = "the base of the class is chosen at run time by the kind of server"

# What only running the package tells, and what Sprachbund says so of.
DATA_SCHEMAS_UNKNOWN = {
    "categories": "the package makes no model of this schema, which is said",
    ("users", "index", ""): "made in a loop over names, which is said",
    ("aclentries", "permBits", "max"): "a sum over the members of another package's enumeration, which is said",
}

CASES = [
    # One of its planted mistakes is a text without a length, which MariaDB and MySQL refuse.
    Case("demo register", "django", ROOT / "demo/django", ["postgresql", "postgresql-15", "sqlite"], ["harbour"], "BigAutoField", releases=["6.1"]),
    Case("demo register", "typeorm", ROOT / "demo/typeorm", ["postgresql"], releases=["0.2", "1.1"]),
    Case("every construct", "django", HERE / "cases/django/everything", EVERYWHERE, ["django.contrib.contenttypes", "django.contrib.auth", "wharf"], "AutoField", releases=["6.1"]),
    Case("text without a length", "django", HERE / "cases/django/unbounded", ["postgresql", "sqlite"], ["jetty"], "AutoField"),
    Case("what other servers lack", "django", HERE / "cases/django/lacking", EVERYWHERE, ["mole"], "AutoField", releases=["6.1"]),
    Case("PostgreSQL only", "django", HERE / "cases/django/postgresql", ["postgresql"], ["django.contrib.postgres", "pier"], "AutoField", releases=["6.1"]),
    Case("demo register", "mongoose", ROOT / "demo/mongoose", ["mongodb"], releases=["9"]),
    Case("every construct", "mongoose", HERE / "cases/mongoose/everything", ["mongodb"], releases=["9"]),
    Case("demo register", "prisma", ROOT / "demo/prisma", ["postgresql"]),
    Case("every construct", "prisma", HERE / "cases/prisma/everything", ["postgresql"]),
    Case("tables without a key", "prisma", HERE / "cases/prisma/keyless", ["postgresql"], targets=["django", "sql"]),
    Case("every construct, SQLite", "prisma", HERE / "cases/prisma/everything-sqlite", ["sqlite"]),
    Case("every construct, MySQL", "prisma", HERE / "cases/prisma/everything-mysql", ["mariadb", "mysql"]),
    Case("demo register", "sequelize", ROOT / "demo/sequelize", ["postgresql", "sqlite"]),
    Case("every construct", "sequelize", HERE / "cases/sequelize/everything", ["postgresql", "sqlite"]),
    Case("tables without a key", "sequelize", HERE / "cases/sequelize/keyless", ["postgresql", "sqlite"], targets=["django", "sql"]),
    Case("decorated classes", "sequelize", HERE / "cases/sequelize/decorated", ["postgresql", "sqlite"]),
    Case("demo register", "sqlalchemy", ROOT / "demo/sqlalchemy", ["postgresql", "sqlite"], releases=["2.1"]),
    # A day as a default is written without brackets, which MySQL refuses.
    Case("every construct", "sqlalchemy", HERE / "cases/sqlalchemy/everything", ["postgresql", "mariadb", "sqlite"], releases=["2.1"]),
    Case("tables without a key", "sqlalchemy", HERE / "cases/sqlalchemy/keyless", EVERYWHERE, targets=["django", "sql"]),
    Case("revision scripts", "sqlalchemy", HERE / "cases/sqlalchemy/revisions", ["postgresql"]),
    Case("every construct", "typeorm", HERE / "cases/typeorm/everything", ["postgresql"], releases=["1.1"]),
    Case("every construct, MariaDB", "typeorm", HERE / "cases/typeorm/everything-mariadb", ["mariadb", "mysql"], releases=["1.1"]),
    Case("every construct, SQLite", "typeorm", HERE / "cases/typeorm/everything-sqlite", ["sqlite"], releases=["0.2", "1.1"]),
    Case(
        "Django's own applications",
        "django",
        [SITE / "django/contrib" / app for app in CONTRIB],
        ["postgresql", "mysql", "sqlite"],
        ["django.contrib." + app for app in CONTRIB],
        "AutoField",
    ),
    Case(
        "Wagtail " + importlib.metadata.version("wagtail"),
        "django",
        [SITE / "wagtail/models", SITE / "wagtail/apps.py", SITE / "taggit"]
        + [SITE / "wagtail" / app.replace(".", "/") for app in WAGTAIL if app not in ("", "search")],
        ["postgresql"],
        [("wagtail." + app).rstrip(".") for app in WAGTAIL] + ["taggit", "django.contrib.contenttypes", "django.contrib.auth"],
        "AutoField",
        ["--follow", SITE],
        None,
        # The files that choose them are not among the inputs.
        {"wagtailsearch_indexentry": BY_SERVER, "wagtailsearch_indexentry_fts": BY_SERVER},
    ),
    Case(
        "Galaxy data " + importlib.metadata.version("galaxy-data"),
        "sqlalchemy",
        [SITE / "galaxy/model/__init__.py"],
        ["postgresql"],
        ["galaxy.model"],
        None,
        ["--follow", SITE],
    ),
    Case("@fonoster/identity 0.18.2", "prisma", [TAKEN / "fonoster-identity-0.18.2/dist/generated/@prisma/client/schema.prisma"], ["postgresql"]),
    Case("umami 2.10.0", "prisma", [TAKEN / "umami-2.10.0/db/postgresql/schema.prisma"], ["postgresql"]),
    Case("umami 2.10.0, MySQL", "prisma", [TAKEN / "umami-2.10.0/db/mysql/schema.prisma"], ["mysql"]),
    Case("@dub/prisma 1.0.0", "prisma", [TAKEN / "dub-prisma-1.0.0/schema"], ["mysql"]),
    Case(
        "@abtnode/models 1.17.12",
        "sequelize",
        [TAKEN / "abtnode-models-1.17.12/lib/models", TAKEN / "abtnode-models-1.17.12/lib/util.js"],
        ["postgresql"],
        [HERE / "registers/abtnode.js"],
        None,
        ["--config", HERE / "registers/abtnode.toml", "--follow", TAKEN / "modules"],
    ),
    # Read only: names of its documents inside documents are longer than PostgreSQL lets tables be called.
    Case(
        "openhim-core 4.0.5",
        "mongoose",
        [TAKEN / "openhim-core-4.0.5/src/model"],
        ["mongodb"],
        [HERE / "registers/openhim.js"],
        targets=[],
        left_out={("mediators", "configDefs.type", "enum"): "a list that the file exports, which is said to be unknown"},
    ),
    Case(
        "@librechat/data-schemas 0.0.71",
        "mongoose",
        [MODULES / "@librechat/data-schemas/dist/index.cjs"],
        ["mongodb"],
        [HERE / "registers/data-schemas.js"],
        None,
        ["--largest-file", "4000000", "--follow", MODULES],
        None,
        DATA_SCHEMAS_UNKNOWN,
    ),
    Case(
        "@veramo/data-store 7.0.1",
        "typeorm",
        [PACKAGE / f"src/entities/{name}.ts" for name in VERAMO],
        ["postgresql", "mysql", "sqlite"],
        [PACKAGE / f"build/entities/{name}.js" for name in VERAMO],
        None,
        ["--follow", MODULES],
    ),
]
