//! Words that may not name a column without quotes, by the servers that refuse them: each was tried
//! on PostgreSQL 15.18, MariaDB 10.11.19 and SQLite 3.40.1 (words of `pg_get_keywords()` and of
//! `information_schema.keywords`). Those that one server alone refuses stand in its room.

pub(super) const EVERYWHERE: &str = "all and as case check collate constraint create default \
                                     distinct else except foreign from group having in \
                                     intersect into is join limit not null on or order primary \
                                     references returning select table then to union unique \
                                     using when where";

pub(super) const NOT_ON_POSTGRESQL: &str =
    "add alter between delete drop exists index insert set update values";

pub(super) const NOT_ON_SQLITE: &str = "analyze asc binary both column cross current_date \
                                        current_role current_time current_timestamp \
                                        current_user desc false fetch for grant inner leading \
                                        left like localtime localtimestamp natural offset \
                                        outer right trailing true with";

pub(super) const NOT_ON_MARIADB: &str = "deferrable isnull notnull";
