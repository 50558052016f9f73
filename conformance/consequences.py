"""What the pages of the rules say will happen, tried on the servers.

A page shows its consequence as SQL, one statement a line, with a comment that tells what comes of it. consequences.sql has the
tables that the statements meet. `refused` in a comment, and what follows `refused: ` (to a semicolon), must be what the server does
and says; everything else must be accepted; `-- shows:` must be what the last statement returns.
"""

import re
import sqlite3
from functools import cache

from cases import ROOT
from servers import SERVERS

FILE = ROOT / "conformance/consequences.sql"
PAGES = ROOT / "docs/rules"
SECTION = re.compile(r"^-- (?P<rule>[a-z-]+) @ (?P<server>[a-z]+)(: (?P<outcome>accepted|refused))?$")
NOTHING = "(nothing)"

# Rules whose consequence is not one of these servers'.
ELSEWHERE = {"name-kept-by-host": "in the host language", "unique-null-elsewhere": "of MongoDB"}


def sections():
    """Rule, server, outcome (where the page tells of two), tables and what is shown, of each section."""
    found = []
    for line in FILE.read_text().splitlines():
        head = SECTION.match(line)
        if head:
            found.append({**head.groupdict(), "tables": "", "shows": None})
        elif line.startswith("-- shows: "):
            found[-1]["shows"] = line.removeprefix("-- shows: ")
        elif found:
            found[-1]["tables"] += line + "\n"
    return found


def statements(rule):
    """The statements of a page, each with its comment."""
    text = (PAGES / f"{rule}.md").read_text()
    block = text.split("## What follows from it", 1)[1].split("```sql\n", 1)[1].split("```", 1)[0]
    found = []
    for line in block.splitlines():
        statement, _, comment = line.partition("-- ")
        if statement.strip():
            found.append((statement.strip(), comment))
        elif found:
            found[-1] = (found[-1][0], comment)
    return found


@cache
def postgresql():
    return SERVERS["postgresql"]("consequences")


def empty(server):
    """A server without tables. Making a database of PostgreSQL anew is slow, emptying it is not."""
    if server != "postgresql":
        return SERVERS[server]("consequences")
    postgresql().script("DROP SCHEMA public CASCADE; CREATE SCHEMA public")
    return postgresql()


class Session:
    """A server with nothing but these tables."""

    def __init__(self, server, tables):
        self.server, self.notices = empty(server), []
        if tables.strip():
            self.server.script(tables)
        if server == "sqlite":
            self.connection = sqlite3.connect(self.server.path, isolation_level=None)
        else:
            self.connection = self.server.session(self.server.database)
        if server == "postgresql":
            self.connection.add_notice_handler(lambda notice: self.notices.append(f"{notice.severity}: {notice.message_primary}"))

    def run(self, statement):
        """What is returned, and what is said; `None` in place of the first where the statement is refused."""
        cursor = self.connection.cursor()
        try:
            cursor.execute(statement)
            rows = cursor.fetchall() if cursor.description else []
            return ", ".join(str(row[0]) for row in rows) or NOTHING, "\n".join(self.notices)
        except Exception as error:  # Each driver has its own; all of them are refusals.
            return None, str(error)


def faults_of(section):
    session = Session(section["server"], section["tables"])
    told = statements(section["rule"])
    for at, (statement, comment) in enumerate(told):
        last = at + 1 == len(told)
        refused = section["outcome"] == "refused" if last and section["outcome"] else "refused" in comment
        returned, said = session.run(statement)
        title = f"{section['rule']} @ {section['server']}: {statement}"
        if (returned is None) != refused:
            yield f"{title}: {'refused: ' + said if returned is None else 'accepted'}"
        quoted = re.search(r"(?:refused: |NOTICE: )([^;]*)", comment)
        if quoted and section["outcome"] != "accepted" and quoted[1] not in re.sub(r"\s+", " ", said):
            yield f"{title}: the server says: {said}"
        if last and section["shows"] and not (returned or "").startswith(section["shows"]):
            yield f"{title}: returns {returned}"
    session.connection.close()


def check():
    """Words for everything that does not happen as a page says, and how many consequences were tried."""
    tried = sections()
    pages = {page.stem for page in PAGES.glob("*.md")} - {"README", "in-which-dialects"}
    untried = pages - {section["rule"] for section in tried} - ELSEWHERE.keys()
    faults = [f"no section for {rule}" for rule in sorted(untried)]
    return faults + [fault for section in tried for fault in faults_of(section)], len(tried)


if __name__ == "__main__":
    faults, tried = check()
    print(*faults, f"{tried} tried", sep="\n")
