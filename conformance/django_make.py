"""Lets Django create the tables of applications, without their migrations.

usage: django_make.py FOLDER APP[,APP...] DATABASE KEY_CLASS [--check]
DATABASE is postgresql:HOST:PORT:USER:NAME, mariadb:HOST:PORT:USER:NAME, mysql:HOST:PORT:USER:NAME or sqlite:PATH.
"""

import sys


class NoMigrations:
    """Every application is created from its models."""

    def __contains__(self, _):
        return True

    def __getitem__(self, _):
        return None


def main(folder, apps, database, key_class):
    sys.path.insert(0, folder)
    import django
    from django.conf import settings

    kind, _, rest = database.partition(":")
    if kind == "sqlite":
        connection = {"ENGINE": "django.db.backends.sqlite3", "NAME": rest}
    else:
        host, port, user, name = rest.split(":")
        engine = {"postgresql": "postgresql", "mariadb": "mysql", "mysql": "mysql"}[kind]
        connection = {"ENGINE": "django.db.backends." + engine, "HOST": host, "PORT": port, "USER": user, "NAME": name}
    if kind in ("mariadb", "mysql"):
        import pymysql

        pymysql.install_as_MySQLdb()
    installed = apps.split(",")
    settings.configure(
        INSTALLED_APPS=installed,
        DATABASES={"default": connection},
        DEFAULT_AUTO_FIELD="django.db.models." + key_class,
        MIGRATION_MODULES=NoMigrations(),
        USE_TZ=True,
        SECRET_KEY="conformance",
        SITE_ID=1,
        STATIC_URL="/static/",
        WAGTAIL_SITE_NAME="harbour",
        WAGTAILADMIN_BASE_URL="http://localhost",
        ROOT_URLCONF="django_make",
        SILENCED_SYSTEM_CHECKS=["models.W042", "fields.W342", "postgres.E005", "fields.E320"],
    )
    django.setup()
    from django.core.management import call_command

    call_command("check", fail_level="ERROR", verbosity=0) if "--check" in sys.argv else None
    call_command("migrate", run_syncdb=True, verbosity=0, interactive=False)


urlpatterns = []

if __name__ == "__main__":
    main(*sys.argv[1:5])
