//! What the rooms of the servers say, held against each other.

use sprachbund_schema::schema::{
    Database, EnforcedBy, Entity, ForeignKey, Index, Origin, Type, Unique,
};
use sprachbund_schema::schema::{PrimaryKey, References};
use sprachbund_schema::server::{
    index_reference, index_references, is_index_of_reference, is_unbounded,
};

const ALL: [Database; 5] =
    [Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite, Database::MongoDb];

#[test]
fn each_server_has_a_room_and_a_name_of_its_own() {
    assert_eq!(Database::ALL.map(|(_, database)| database).len(), ALL.len());
    for (id, database) in Database::ALL {
        let server = database.server();
        assert_eq!((server.id, database.id()), (id, id));
        assert!(!server.title.is_empty() && database.title() == server.title);
        assert_eq!(server.keeps_documents, database == Database::MongoDb);
        assert!(
            server
                .lacks
                .iter()
                .all(|lacked| { !server.since.iter().any(|(_, feature)| feature == lacked) })
        );
    }
}

/// A word of a server means a type that the server calls by a word which means it again.
#[test]
fn words_for_types_lead_back() {
    for database in ALL {
        let server = database.server();
        // A text without a length is a longer text where every bounded one needs a length.
        let bounded = |ty: &Type| !(server.varchar_needs_length && *ty == Type::Varchar(None));
        for (word, ty) in server.types().filter(|(_, ty)| bounded(ty)) {
            let called = (server.type_name)(&ty, "");
            let again = server.types().find(|(known, _)| *known == called).map(|(_, ty)| ty);
            if let Some(again) = again {
                assert_eq!(again, ty, "{word} is {ty:?}, called {called} on {}", server.title);
            }
            assert!(!called.is_empty(), "{word} on {}", server.title);
        }
    }
}

/// A type, and the greatest number that each server keeps of it.
#[test]
fn whole_numbers_have_their_range() {
    let of = |database: Database, ty: &Type| database.server().whole_range(ty);
    for (ty, postgresql, mariadb, sqlite) in [
        (Type::SmallInt, 32_767, 32_767, i64::MAX as i128),
        (Type::Integer, 2_147_483_647, 2_147_483_647, i64::MAX as i128),
        (Type::UnsignedSmallInt, 32_767, 65_535, i64::MAX as i128),
        (Type::UnsignedInteger, 2_147_483_647, 4_294_967_295, i64::MAX as i128),
        (Type::BigInt, i64::MAX as i128, i64::MAX as i128, i64::MAX as i128),
        (Type::UnsignedBigInt, i64::MAX as i128, u64::MAX as i128, i64::MAX as i128),
    ] {
        let greatest = |database| of(database, &ty).map(|(_, greatest)| greatest);
        assert_eq!(greatest(Database::PostgreSql), Some(postgresql), "{ty}");
        assert_eq!(greatest(Database::MariaDb), Some(mariadb), "{ty}");
        assert_eq!(greatest(Database::MySql), Some(mariadb), "{ty}");
        assert_eq!(greatest(Database::Sqlite), Some(sqlite), "{ty}");
        let unsigned = ty.to_string().contains("unsigned");
        let least = of(Database::MariaDb, &ty).map(|(least, _)| least < 0);
        assert_eq!(least, Some(!unsigned), "{ty}");
    }
    for ty in [Type::Text, Type::Boolean, Type::Double, Type::Date] {
        assert_eq!(of(Database::PostgreSql, &ty), None, "{ty}");
    }
}

#[test]
fn texts_without_a_limit_are_unbounded() {
    for (ty, unbounded) in [
        (Type::Text, true),
        (Type::Varchar(None), true),
        (Type::Varchar(Some(9)), false),
        (Type::Binary(None), true),
        (Type::Json, true),
        (Type::Integer, false),
        (Type::Uuid, false),
    ] {
        assert_eq!(is_unbounded(&ty), unbounded, "{ty}");
    }
}

fn names(names: &[&str]) -> Vec<String> {
    names.iter().map(|name| (*name).to_owned()).collect()
}

fn berths() -> Entity {
    Entity::stored(None, "berths", Origin::implied("a test"))
}

fn to_quays(columns: &[&str]) -> ForeignKey {
    ForeignKey {
        columns: names(columns),
        references: References { table: "quays".into(), namespace: None, columns: names(&["id"]) },
        on_delete: Default::default(),
        on_update: Default::default(),
        deferrable: None,
        enforced: EnforcedBy::Database,
        name: None,
        origin: Origin::implied("a test"),
    }
}

/// What is there, how it comes there, and how many indexes there are then.
type Indexed<'c> = (&'static str, &'c dyn Fn(&mut Entity), usize);

/// What stands over the columns of a reference already, and how many indexes there are then.
#[test]
fn a_reference_is_indexed_where_nothing_begins_with_it() {
    let plain = |entity: &mut Entity, columns: &[&str]| {
        entity.indexes.push(Index::over(&names(columns), Origin::default()));
    };
    let cases: [Indexed<'_>; 6] = [
        ("nothing", &|_| {}, 1),
        ("an index of it", &|entity| plain(entity, &["quay_id"]), 1),
        ("an index that begins with it", &|entity| plain(entity, &["quay_id", "code"]), 1),
        ("an index that ends with it", &|entity| plain(entity, &["code", "quay_id"]), 2),
        (
            "a unique constraint",
            &|entity| {
                let columns = names(&["quay_id"]);
                entity.uniques.push(Unique { columns, ..Unique::default() });
            },
            0,
        ),
        (
            "the key",
            &|entity| {
                let (columns, origin) = (names(&["quay_id", "code"]), Origin::default());
                entity.primary_key = Some(PrimaryKey { columns, name: None, origin });
            },
            0,
        ),
    ];
    for (what, prepare, count) in cases {
        let mut entity = berths();
        prepare(&mut entity);
        entity.foreign_keys.push(to_quays(&["quay_id"]));
        index_references(&mut entity);
        assert_eq!(entity.indexes.len(), count, "{what}");
        index_reference(&mut entity, &names(&["quay_id"]));
        assert_eq!(entity.indexes.len(), count, "once is enough: {what}");
    }
    let mut kept = berths();
    kept.foreign_keys
        .push(ForeignKey { enforced: EnforcedBy::Application, ..to_quays(&["quay_id"]) });
    index_references(&mut kept);
    assert_eq!(kept.indexes.len(), 0, "the server knows nothing of it");
}

#[test]
fn the_index_of_a_reference_is_told_from_others() {
    let mut entity = berths();
    entity.foreign_keys.push(to_quays(&["quay_id"]));
    index_references(&mut entity);
    entity.indexes.push(Index::over(&names(&["code"]), Origin::default()));
    let told: Vec<bool> =
        entity.indexes.iter().map(|index| is_index_of_reference(&entity, index)).collect();
    assert_eq!(told, [true, false]);
}

/// What stands behind `/*`, and how much of it comes before what is run, in each release.
#[test]
fn comments_are_code_from_a_release_on() {
    let (mysql, mariadb) = (Database::MySql, Database::MariaDb);
    for (comment, database, release, run) in [
        ("! x", mysql, None, Some(1)),
        ("!40101 x", mysql, None, Some(6)),
        ("!80016 x", mysql, Some((8, 0)), Some(6)),
        ("!80016 x", mysql, Some((5, 7)), None),
        ("!090400 x", mysql, Some((9, 7)), Some(7)),
        ("!090400 x", mysql, Some((8, 4)), None),
        ("!99999 x", mysql, None, None),
        ("!100500 x", mysql, None, None),
        ("M! x", mysql, None, None),
        (" x", mysql, None, None),
        ("! x", mariadb, None, Some(1)),
        ("!50699 x", mariadb, None, Some(6)),
        ("!50700 x", mariadb, None, None),
        ("!99999 x", mariadb, Some((11, 8)), None),
        ("!100500 x", mariadb, Some((10, 11)), Some(7)),
        ("!110800 x", mariadb, Some((10, 11)), None),
        ("M! x", mariadb, None, Some(2)),
        ("M!100500 x", mariadb, None, Some(8)),
        ("M!999999\\- enable the sandbox mode", mariadb, None, None),
        ("!", Database::PostgreSql, None, None),
        ("! x", Database::Sqlite, None, None),
    ] {
        let runs = database.server().quotes.runs_comment;
        assert_eq!(runs(comment, release), run, "{comment} on {} {release:?}", database.title());
    }
}
