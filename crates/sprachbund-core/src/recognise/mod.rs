//! Stored tables to what an application would call them: classes, attributes, relations, join
//! tables, times that a framework keeps. A database says none of this; each recognition is marked
//! as implied and can be turned off.
//!
//! One file each: [`names`], [`relations`], [`purposes`].

mod names;
mod purposes;
mod relations;

pub use crate::dialect::Recognitions;
use crate::schema::Schema;

/// Fills in what the tables show. `module` is the one of tables in the server's usual schema.
pub fn recognise(schema: &mut Schema, how: &Recognitions, module: &str) {
    names::recognise(schema, how, module);
    relations::recognise(schema, how);
    purposes::recognise(schema, how);
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::dialect::Settings;
    use crate::dialects::by_id;
    use crate::reading::read;
    use crate::schema::facts::facts;
    use crate::source::NoFiles;

    const TABLES: &str = "
        CREATE TABLE hb_harbours (id serial PRIMARY KEY, name varchar(40) NOT NULL);
        CREATE TABLE hb_quays (id serial PRIMARY KEY, harbour_id int NOT NULL REFERENCES \
         hb_harbours (id), beside_id int REFERENCES hb_quays);
        CREATE TABLE hb_pilots (id serial PRIMARY KEY, created_at timestamptz NOT NULL DEFAULT \
         now(), updated_at timestamptz DEFAULT now(),
            deleted_at timestamptz, licence_id int UNIQUE REFERENCES hb_licences (id));
        CREATE TABLE hb_licences (id serial PRIMARY KEY);
        CREATE TABLE hb_quays_pilots (quay_id int REFERENCES hb_quays, pilot_id int REFERENCES \
         hb_pilots, PRIMARY KEY (quay_id, pilot_id));";

    fn recognised(how: Recognitions) -> Vec<String> {
        let mut settings = Settings {
            recognitions: how,
            default_module: Some("harbour".into()),
            ..Settings::default()
        };
        let dialect = by_id("sql").expect("a dialect");
        let schema =
            read(vec![("tables.sql".into(), TABLES.into())], dialect, &mut settings, &NoFiles)
                .schema;
        facts(&schema).into_iter().map(|(key, value)| format!("{key} = {value}")).collect()
    }

    #[test]
    fn each_recognition_can_be_turned_off() {
        let all = || Recognitions { prefixes: vec!["hb_".into()], ..Recognitions::default() };
        type Off = fn(&mut Recognitions);
        let cases: &[(&str, Off)] = &[
            ("hb_harbours, class = \"Harbour\"", |how| how.prefixes.clear()),
            ("hb_harbours, class = \"Harbour\"", |how| how.singular = false),
            ("hb_quays, relation harbour_id, attribute = \"harbour\"", |how| {
                how.prefixes.push("nothing".into())
            }),
            ("hb_quays, relation harbour_id, inverse = \"quays\"", |how| how.inverses = false),
            ("hb_pilots, relation licence_id, kind = \"one-to-one\"", |how| how.one_to_one = false),
            ("hb_quays, relation through hb_quays_pilots, kind = \"many-to-many\"", |how| {
                how.join_tables = false
            }),
            ("hb_pilots, column created_at, purpose = \"creation-time\"", |how| how.times = false),
            ("hb_pilots, column updated_at, purpose = \"update-time\"", |how| how.times = false),
            ("hb_pilots, soft_delete = \"deleted_at\"", |how| how.soft_delete = false),
        ];
        for (fact, off) in cases {
            assert!(
                recognised(all()).iter().any(|known| known == fact),
                "{fact}\n{:#?}",
                recognised(all())
            );
            let mut how = all();
            off(&mut how);
            let stays = how.prefixes.len() == 2;
            assert_eq!(
                recognised(how).iter().any(|known| known == fact),
                stays,
                "{fact} although turned off"
            );
        }
    }

    #[test]
    fn two_ways_to_one_table_have_two_names() {
        let found =
            recognised(Recognitions { prefixes: vec!["hb_".into()], ..Recognitions::default() });
        for fact in [
            "hb_quays, relation beside_id, inverse = \"beside_quays\"",
            "hb_quays, relation beside_id, attribute = \"beside\"",
        ] {
            assert!(found.iter().any(|known| known == fact), "{fact}\n{found:#?}");
        }
    }
}
