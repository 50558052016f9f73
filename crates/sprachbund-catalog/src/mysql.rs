//! The catalog of MySQL: it gives defaults as they are, without quotes, and says apart which are
//! expressions. Seen in 9.7.4.

use sprachbund_core::schema::Database;

use crate::information_schema::{Catalog, Column, CutShort, literal};

pub(crate) const CATALOG: Catalog = Catalog {
    database: Database::MySql,
    oldest: ((8, 0), "MySQL 8.0"),
    columns: "SELECT table_name, column_name, column_type, is_nullable, column_default, extra, \
              column_comment, generation_expression,
        collation_name, srs_id
    FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY table_name, \
              ordinal_position",
    indexes: "SELECT table_name, index_name, non_unique, column_name, collation, index_type, \
              sub_part, expression, is_visible = 'NO'
    FROM information_schema.statistics
    WHERE table_schema = DATABASE() ORDER BY table_name, index_name, seq_in_index",
    checks: "SELECT t.table_name, c.constraint_name, c.check_clause, t.enforced = 'NO', 0 FROM \
             information_schema.check_constraints c
    JOIN information_schema.table_constraints t ON t.constraint_schema = c.constraint_schema AND \
             t.constraint_name = c.constraint_name
    WHERE c.constraint_schema = DATABASE() ORDER BY t.table_name, c.constraint_name",
    limit: |answer| format!("SET SESSION max_execution_time = {}", answer.as_millis()),
    default,
    expression,
    hidden_index: " INVISIBLE",
};

/// Types whose values stand without quotes.
const PLAIN: &[&str] = &[
    "tinyint",
    "smallint",
    "mediumint",
    "int",
    "bigint",
    "decimal",
    "float",
    "double",
    "bit",
    "year",
];

fn default(column: &Column) -> Result<Option<String>, CutShort> {
    let Some(default) = &column.default else { return Ok(None) };
    let moment = default.to_lowercase().starts_with("current_timestamp");
    Ok(Some(match column.type_word() {
        _ if moment && column.extra.contains("default_generated") => default.clone(),
        _ if column.extra.contains("default_generated") => format!("({})", expression(default)),
        "binary" | "varbinary" => return Err(CutShort),
        word if PLAIN.contains(&word) => default.clone(),
        _ => literal(default),
    }))
}

/// An expression without the backslashes before its quotes, and with its letters as they were:
/// their bytes were taken for letters once more.
fn expression(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let whole = once_encoded(text);
    let mut letters = whole.as_deref().unwrap_or(text).chars();
    while let Some(letter) = letters.next() {
        match letter {
            '\\' => out.extend(letters.next().map(|escaped| match escaped {
                'n' => '\n',
                'r' => '\r',
                't' => '\t',
                '0' => '\0',
                'Z' => '\u{1a}',
                plain => plain,
            })),
            plain => out.push(plain),
        }
    }
    out
}

/// Letters of cp1252 that are not those of their number, from 0x80 on; what has none is its number
/// (manual, "The latin1 character set").
const OF_CP1252: &str = "€\u{81}‚ƒ„…†‡ˆ‰Š‹Œ\u{8d}Ž\u{8f}\u{90}‘’“”•–—˜™š›œ\u{9d}žŸ";

/// A text whose bytes were taken for letters of cp1252; `None` where it cannot be one.
fn once_encoded(text: &str) -> Option<String> {
    let byte = |letter: char| {
        let of_table = OF_CP1252.chars().position(|known| known == letter);
        of_table.map_or_else(|| u8::try_from(letter).ok(), |at| u8::try_from(0x80 + at).ok())
    };
    String::from_utf8(text.chars().map(byte).collect::<Option<Vec<u8>>>()?).ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn column(ty: &str, default: &str, extra: &str) -> Column {
        Column {
            table: "berths".into(),
            name: "mark".into(),
            ty: ty.into(),
            nullable: true,
            default: Some(default.into()),
            extra: extra.into(),
            comment: String::new(),
            generated: None,
            collation: None,
            system: None,
        }
    }

    #[test]
    fn defaults_get_their_quotes_by_the_type() {
        for (ty, given, extra, written) in [
            ("varchar(9)", "NULL", "", "'NULL'"),
            ("varchar(9)", "it's", "", "'it''s'"),
            ("varchar(30)", "current_timestamp", "", "'current_timestamp'"),
            ("int", "3", "", "3"),
            ("int unsigned", "3", "", "3"),
            ("decimal(8,2)", "1.50", "", "1.50"),
            ("bit(3)", "b'101'", "", "b'101'"),
            ("enum('point','int')", "int", "", "'int'"),
            ("year", "2020", "", "2020"),
            ("date", "2020-01-01", "", "'2020-01-01'"),
            ("datetime(3)", "CURRENT_TIMESTAMP(3)", "default_generated", "CURRENT_TIMESTAMP(3)"),
            ("varchar(9)", "_utf8mb4\\'x\\'", "default_generated", "(_utf8mb4'x')"),
            ("int", "(1 + 2)", "default_generated", "((1 + 2))"),
        ] {
            let found = default(&column(ty, given, extra)).ok().flatten();
            assert_eq!(found.as_deref(), Some(written), "{ty} {given}");
        }
        assert!(default(&column("varbinary(9)", "0x", "")).is_err());
    }

    #[test]
    fn expressions_lose_what_the_catalog_put_into_them() {
        for (given, written) in [
            ("(`depth` > 0)", "(`depth` > 0)"),
            (r"(`kind` in (_utf8mb4\'k\'))", "(`kind` in (_utf8mb4'k'))"),
            (r"_utf8mb4\'it\\\'s\'", r"_utf8mb4'it\'s'"),
            ("_utf8mb4\\'\u{c3}\u{a9}\\'", "_utf8mb4'é'"),
            ("_utf8mb4\\'â‚¬\\'", "_utf8mb4'€'"),
            ("_utf8mb4\\'港\\'", "_utf8mb4'港'"),
        ] {
            assert_eq!(expression(given), written);
        }
    }
}
