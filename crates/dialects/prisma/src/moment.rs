//! Moments in defaults. The language writes all of them in one form (RFC 3339); the engine writes
//! `2026-01-02 03:04:05 +00:00` into SQL. Of that a column of PostgreSQL keeps what its type holds,
//! in the server's own form: `2026-01-02 03:04:05+00`.

use crate::schema::Database;

/// A day that stands for none.
const NO_DAY: &str = "1970-01-01";

/// What a type keeps of a moment.
#[derive(Clone, Copy)]
struct Kept {
    day: bool,
    time: bool,
    zone: bool,
}

fn kept(word: &str, database: Database) -> Kept {
    let (day, time, zone) = match (database, word) {
        (Database::PostgreSql, "DateTime" | "DateTime @db.Timestamp") => (true, true, false),
        (Database::PostgreSql, "DateTime @db.Date") => (true, false, false),
        (Database::PostgreSql, "DateTime @db.Time") => (false, true, false),
        (Database::PostgreSql, "DateTime @db.Timetz") => (false, true, true),
        _ => (true, true, true),
    };
    Kept { day, time, zone }
}

/// A moment of the language as a column of this type keeps it.
pub(super) fn stored(text: &str, word: &str, database: Database) -> String {
    let Some((day, rest)) = text.split_once('T') else { return text.to_owned() };
    let kept = kept(word, database);
    let zone_at = rest.find(['Z', '+', '-']).unwrap_or(rest.len());
    let (time, zone) = rest.split_at(zone_at);
    let zone = if matches!(zone, "Z" | "") { "+00:00" } else { zone };
    if database == Database::PostgreSql && kept.zone && zone == "+00:00" {
        let day = if kept.day { format!("{day} ") } else { String::new() };
        return format!("{day}{time}+00");
    }
    let parts = [(kept.day, day), (kept.time, time), (kept.zone, zone)];
    parts.into_iter().filter(|(kept, _)| *kept).map(|(_, part)| part).collect::<Vec<_>>().join(" ")
}

/// What a column keeps as a moment of the language; nothing where that would be read as another
/// one.
pub(super) fn written(text: &str, word: &str, database: Database) -> Option<String> {
    let kept = kept(word, database);
    let spaced = text.strip_suffix("+00").map(|text| format!("{text} +00:00"));
    let mut parts = spaced.as_deref().unwrap_or(text).split(' ');
    let day = if kept.day { parts.next()? } else { NO_DAY };
    let time = if kept.time { parts.next()? } else { "00:00:00" };
    let zone = if kept.zone { parts.next()? } else { "Z" };
    let whole = format!("{day}T{time}{}", if zone == "+00:00" { "Z" } else { zone });
    let (clock, fraction) = time.split_once('.').unwrap_or((time, "0"));
    let shaped = has_shape(day, "0000-00-00")
        && has_shape(clock, "00:00:00")
        && (zone == "Z" || zone.get(1..).is_some_and(|zone| has_shape(zone, "00:00")));
    let plain =
        shaped && !fraction.is_empty() && fraction.bytes().all(|digit| digit.is_ascii_digit());
    (plain && stored(&whole, word, database) == text).then_some(whole)
}

/// Whether a text has digits where the shape has zeros, and the shape's marks elsewhere.
fn has_shape(text: &str, shape: &str) -> bool {
    let fits = |(found, wanted): (u8, u8)| {
        if wanted == b'0' { found.is_ascii_digit() } else { found == wanted }
    };
    text.len() == shape.len() && text.bytes().zip(shape.bytes()).all(fits)
}
