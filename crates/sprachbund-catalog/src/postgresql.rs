//! PostgreSQL's catalog (documentation, chapter 53), in its own words: `format_type`,
//! `pg_get_expr`, `pg_get_constraintdef`, `pg_get_indexdef`. Nine queries, whatever the number of
//! tables.

use std::collections::BTreeMap;
use std::fmt::Write;

use postgres::config::SslMode;
use postgres::error::SqlState;
use postgres::{Client, Config, Error, NoTls, Row};
use sprachbund_core::schema::Database;
use tokio_postgres_rustls::MakeRustlsConnect;

use crate::address::{Address, Tls};
use crate::clients::Script;
use crate::talk::CONNECTING;
use crate::{CatalogError, Wanted, tls};

/// Version of the server, as `server_version_num` counts.
const OLDEST: i32 = 120_000;

/// The first question. What a database's owner puts on its search path must not answer it: every
/// name is qualified, and the path is [settled](SETTLE) before anything else is asked.
const VERSION: &str = "SELECT pg_catalog.current_setting('server_version_num')::pg_catalog.int4,
    pg_catalog.current_setting('server_version'), pg_catalog.current_schema()::pg_catalog.text";

/// No schema but `pg_catalog` is searched after it.
const SETTLE: &str = "SET LOCAL search_path TO ''";

const ENUMS: &str =
    "SELECT format('%I.%I', n.nspname, t.typname), array_agg(quote_literal(e.enumlabel) \
     ORDER BY e.enumsortorder)
    FROM pg_type t JOIN pg_namespace n ON n.oid = t.typnamespace JOIN pg_enum e ON e.enumtypid = \
     t.oid
    WHERE n.nspname = ANY($1) OR EXISTS (SELECT 1 FROM pg_attribute a JOIN pg_class c ON c.oid = \
     a.attrelid
        JOIN pg_namespace n ON n.oid = c.relnamespace WHERE {tables} AND a.atttypid IN (t.oid, \
     t.typarray))
    GROUP BY 1, t.oid ORDER BY t.oid";

const COLUMNS: &str = "SELECT format('%I.%I', n.nspname, c.relname), quote_ident(a.attname), \
     format_type(a.atttypid, a.atttypmod),
        a.attnotnull, pg_get_expr(d.adbin, d.adrelid), a.attidentity::text, a.attgenerated::text,
        CASE WHEN a.attcollation <> t.typcollation THEN quote_ident(l.collname) END
    FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
        JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
        JOIN pg_type t ON t.oid = a.atttypid
        LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum
        LEFT JOIN pg_collation l ON l.oid = a.attcollation
    WHERE {tables} ORDER BY c.oid, a.attnum";

const CONSTRAINTS: &str = "SELECT format('%I.%I', n.nspname, c.relname), quote_ident(k.conname), \
         k.contype::text, pg_get_constraintdef(k.oid)
    FROM pg_constraint k JOIN pg_class c ON c.oid = k.conrelid JOIN pg_namespace n ON n.oid = \
         c.relnamespace
    WHERE {tables} AND k.contype IN ('p', 'u', 'f', 'c', 'x')
        AND (k.contype <> 'f' OR k.conparentid = 0)
    ORDER BY c.oid, k.contype = 'f', k.oid";

const INDEXES: &str = "SELECT pg_get_indexdef(i.indexrelid)
    FROM pg_index i JOIN pg_class c ON c.oid = i.indrelid JOIN pg_namespace n ON n.oid = \
     c.relnamespace
    WHERE {tables} AND NOT EXISTS (SELECT 1 FROM pg_constraint k
        WHERE k.conindid = i.indexrelid AND k.contype IN ('p', 'u', 'x'))
    ORDER BY c.oid, i.indexrelid";

const COMMENTS: &str = "SELECT format('%I.%I', n.nspname, c.relname), quote_ident(a.attname), \
     quote_literal(m.description)
    FROM pg_description m JOIN pg_class c ON c.oid = m.objoid AND m.classoid = 'pg_class'::regclass
        JOIN pg_namespace n ON n.oid = c.relnamespace
        LEFT JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum = m.objsubid AND m.objsubid > 0
    WHERE {tables} ORDER BY c.oid, m.objsubid";

/// Domains of columns, which are named as not read.
const DOMAINS: &str = "SELECT DISTINCT format_type(t.oid, NULL), format_type(t.typbasetype, \
                       t.typtypmod)
    FROM pg_type t JOIN pg_attribute a ON a.atttypid = t.oid JOIN pg_class c ON c.oid = a.attrelid
        JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE {tables} AND t.typtype = 'd' ORDER BY 1";

/// Views, which are named as left out.
const VIEWS: &str = "SELECT format('%I.%I', n.nspname, c.relname)
    FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind IN ('v', 'm') AND n.nspname = ANY($1) AND {own} ORDER BY c.oid";

/// Tables that are no parts of others, in the schemas that are wanted.
const OF_TABLES: &str =
    "c.relkind IN ('r', 'p') AND NOT c.relispartition AND n.nspname = ANY($1) AND {own}";

/// What no extension brought (documentation, "pg_depend").
const OWN: &str = "NOT EXISTS (SELECT 1 FROM pg_depend e WHERE e.classid = 'pg_class'::regclass \
                   AND e.objid = c.oid AND e.deptype = 'e')";

/// A query with its conditions written out.
fn whole(query: &str) -> String {
    query.replace("{tables}", OF_TABLES).replace("{own}", OWN)
}

/// The queries, for the schema that is usual.
pub(crate) fn queries() -> Vec<String> {
    let usual = |query: &&str| whole(query).replace("$1", "'{public}'");
    let all = [VERSION, ENUMS, COLUMNS, CONSTRAINTS, INDEXES, COMMENTS, PARENTS, VIEWS, DOMAINS];
    all.iter().map(usual).collect()
}

const PARENTS: &str = "SELECT format('%I.%I', n.nspname, c.relname), i.inhparent::regclass::text
    FROM pg_inherits i JOIN pg_class c ON c.oid = i.inhrelid JOIN pg_namespace n ON n.oid = \
     c.relnamespace
    WHERE NOT c.relispartition AND n.nspname = ANY($1) ORDER BY c.oid, i.inhseqno";

pub(crate) fn script(
    address: &Address,
    wanted: &Wanted,
    progress: &dyn Fn(&str),
) -> Result<Script, CatalogError> {
    progress(CONNECTING);
    let fault = |error: Error| failed(address, &error);
    let mut client = connect(address, wanted).map_err(fault)?;
    let mut session = client
        .build_transaction()
        .read_only(true)
        .isolation_level(postgres::IsolationLevel::RepeatableRead)
        .start()
        .map_err(fault)?;
    progress("version");
    let version = session.query_one(VERSION, &[]).map_err(fault)?;
    if version.get::<_, i32>(0) < OLDEST {
        return Err(CatalogError::TooOld {
            address: address.shown.clone(),
            server: format!("PostgreSQL {}", version.get::<_, String>(1)),
            needed: "PostgreSQL 12",
        });
    }
    let usual = version.get::<_, Option<String>>(2).unwrap_or_else(|| "public".into());
    let namespaces =
        if wanted.namespaces.is_empty() { vec![usual] } else { wanted.namespaces.clone() };
    session.batch_execute(SETTLE).map_err(fault)?;
    let mut ask = |what: &str, query: &str| {
        progress(what);
        session.query(&whole(query), &[&namespaces]).map_err(fault)
    };
    let (enums, columns) = (ask("types", ENUMS)?, ask("columns", COLUMNS)?);
    let (constraints, indexes, comments) =
        (ask("constraints", CONSTRAINTS)?, ask("indexes", INDEXES)?, ask("comments", COMMENTS)?);
    let (parents, views) = (ask("inheritance", PARENTS)?, ask("views", VIEWS)?);
    let mut text = put_together(&enums, &columns, &constraints, &indexes, &comments);
    for row in &ask("domains", DOMAINS)? {
        let (name, of): (String, String) = (row.get(0), row.get(1));
        let _ = writeln!(text, "CREATE DOMAIN {name} AS {of};");
    }
    for row in &views {
        let _ = writeln!(text, "CREATE VIEW {} AS SELECT 1;", row.get::<_, String>(0));
    }
    Ok(Script {
        text,
        database: Database::PostgreSql,
        release: u32::try_from(version.get::<_, i32>(0) / 10_000).ok().map(|major| (major, 0)),
        children: parents.iter().map(|row| (row.get(0), row.get(1))).collect(),
    })
}

fn connect(address: &Address, wanted: &Wanted) -> Result<Client, Error> {
    let mut config = Config::new();
    let patience = wanted.patience.answer.as_millis();
    config
        .host(&address.host)
        .port(address.port.unwrap_or(5432))
        .user(&address.user)
        .dbname(&address.name)
        .application_name("sprachbund")
        .connect_timeout(wanted.patience.connect)
        .options(&format!(
            "-c default_transaction_read_only=on -c statement_timeout={patience} -c \
             lock_timeout={patience}"
        ));
    if let Some(password) = &address.password {
        config.password(password.reveal());
    }
    config.ssl_mode(match address.tls {
        Tls::Off => SslMode::Disable,
        Tls::Offered => SslMode::Prefer,
        Tls::Required => SslMode::Require,
    });
    match tls::configuration(address.tls) {
        Ok(configuration) if address.tls != Tls::Off => {
            config.connect(MakeRustlsConnect::new(configuration))
        }
        _ => config.connect(NoTls),
    }
}

/// The catalog as statements: tables first, what refers to others last.
fn put_together(
    enums: &[Row],
    columns: &[Row],
    constraints: &[Row],
    indexes: &[Row],
    comments: &[Row],
) -> String {
    let mut text = String::new();
    for row in enums {
        let _ = writeln!(
            text,
            "CREATE TYPE {} AS ENUM ({});",
            row.get::<_, String>(0),
            row.get::<_, Vec<String>>(1).join(", ")
        );
    }
    let mut tables: Vec<(String, Vec<String>)> = Vec::new();
    for row in columns {
        let table: String = row.get(0);
        if tables.last().is_none_or(|(last, _)| *last != table) {
            tables.push((table, Vec::new()));
        }
        if let Some((_, lines)) = tables.last_mut() {
            lines.push(column(row));
        }
    }
    let (mut inside, mut after): (BTreeMap<String, Vec<String>>, Vec<String>) =
        (BTreeMap::new(), Vec::new());
    for row in constraints {
        let (table, name, kind, definition): (String, String, String, String) =
            (row.get(0), row.get(1), row.get(2), row.get(3));
        match kind.as_str() {
            // Inside the table, what is unique on the columns of the key would be the key.
            "f" | "u" => {
                after.push(format!("ALTER TABLE {table} ADD CONSTRAINT {name} {definition};"))
            }
            _ => inside.entry(table).or_default().push(format!("CONSTRAINT {name} {definition}")),
        }
    }
    for (table, mut lines) in tables {
        lines.extend(inside.remove(&table).unwrap_or_default());
        let _ = writeln!(text, "CREATE TABLE {table} (\n    {}\n);", lines.join(",\n    "));
    }
    for row in indexes {
        let _ = writeln!(text, "{};", row.get::<_, String>(0));
    }
    text.extend(after.into_iter().map(|statement| statement + "\n"));
    for row in comments {
        let (table, column, words): (String, Option<String>, String) =
            (row.get(0), row.get(1), row.get(2));
        let _ = match column {
            Some(column) => writeln!(text, "COMMENT ON COLUMN {table}.{column} IS {words};"),
            None => writeln!(text, "COMMENT ON TABLE {table} IS {words};"),
        };
    }
    text
}

fn column(row: &Row) -> String {
    let (name, ty, required): (String, String, bool) = (row.get(1), row.get(2), row.get(3));
    let (default, identity, generated, collation): (
        Option<String>,
        String,
        String,
        Option<String>,
    ) = (row.get(4), row.get(5), row.get(6), row.get(7));
    let mut out = format!("{name} {ty}");
    if let Some(collation) = collation {
        let _ = write!(out, " COLLATE {collation}");
    }
    match (default, generated.as_str()) {
        (Some(expression), "s") => {
            let _ = write!(out, " GENERATED ALWAYS AS ({expression}) STORED");
        }
        // From PostgreSQL 18 on.
        (Some(expression), "v") => {
            let _ = write!(out, " GENERATED ALWAYS AS ({expression}) VIRTUAL");
        }
        (Some(default), _) => {
            let _ = write!(out, " DEFAULT {default}");
        }
        (None, _) => {}
    }
    match identity.as_str() {
        "a" => out.push_str(" GENERATED ALWAYS AS IDENTITY"),
        "d" => out.push_str(" GENERATED BY DEFAULT AS IDENTITY"),
        _ => {}
    }
    out.push_str(if required { " NOT NULL" } else { "" });
    out
}

/// What went wrong, by the server's code (documentation, appendix A).
fn failed(address: &Address, error: &Error) -> CatalogError {
    let address = address.shown.clone();
    let chain = |error: &Error| {
        let mut why = error.to_string();
        let mut inner = std::error::Error::source(error);
        while let Some(source) = inner {
            why = source.to_string();
            inner = source.source();
        }
        why
    };
    let why = error.as_db_error().map_or_else(|| chain(error), |error| error.message().to_owned());
    match error.code() {
        Some(code)
            if [SqlState::INVALID_PASSWORD, SqlState::INVALID_AUTHORIZATION_SPECIFICATION]
                .contains(code) =>
        {
            CatalogError::Login { address, why }
        }
        Some(code) if *code == SqlState::INVALID_CATALOG_NAME => {
            CatalogError::NoDatabase { address, why }
        }
        Some(code) if *code == SqlState::INSUFFICIENT_PRIVILEGE => {
            CatalogError::Right { address, why }
        }
        Some(_) => CatalogError::Broken { address, why },
        None if why.contains("password") => CatalogError::Login { address, why },
        None if error.is_closed() => CatalogError::Broken { address, why },
        None => CatalogError::Unreachable { address, why },
    }
}
