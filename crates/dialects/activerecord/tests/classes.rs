//! What classes say beside their tables, one thing each.

use sprachbund_activerecord::DIALECT;
use sprachbund_core::dialect::Settings;
use sprachbund_core::reading::read;
use sprachbund_core::schema::facts::{FactKey, facts};
use sprachbund_core::source::NoFiles;

/// The tables under all classes of these tests.
const TABLES: &str = r#"
class CreateHarbour < ActiveRecord::Migration[8.1]
  def change
    create_table :harbour_pilots do |t|
      t.string :name
      t.integer :rank
      t.datetime :retired_at
      t.index "lower(name) DESC", include: [:rank]
    end
    create_table :port_calls do |t|
      t.decimal :dues, precision: 30, scale: 10, default: "12345678901234567890.50"
    end
    create_table :pilotages do |t|
      t.references :port_call, null: false, foreign_key: true
      t.references :harbour_pilot, null: false, foreign_key: true
      t.references :relief, foreign_key: { to_table: :harbour_pilots }
    end
    create_table :harbour_pilots_port_calls, id: false do |t|
      t.references :port_call, null: false, foreign_key: true
      t.references :harbour_pilot, null: false, foreign_key: true
    end
    create_table :duties do |t|
      t.references :harbour_pilot, null: false, foreign_key: true, index: { unique: true }
    end
  end
end
"#;

/// Bodies of the classes: of pilots, of port calls, of what stands between them, of duties; and the
/// facts that they make.
type Case = ([&'static str; 4], &'static [&'static str]);

/// Bodies of the same classes, and the beginning of what they must not make.
const NOT: &[([&str; 4], &str)] = &[
    // It leads to one of them, of those that another relation leads to.
    (
        [
            "",
            "has_many :pilotages\nhas_one :harbour_pilot, through: :pilotages",
            "belongs_to :port_call\nbelongs_to :harbour_pilot, class_name: \"Pilot\"",
            "",
        ],
        "port_calls, relation through ",
    ),
];

const CASES: &[Case] = &[
    // What is said of a column counts whatever the table is called.
    (
        ["attribute :rank, default: 3", "", "", ""],
        &["harbour_pilots, column rank, default in the application = {\"literal\":3}"],
    ),
    (
        ["default_scope { where(retired_at: nil) }", "", "", ""],
        &["harbour_pilots, soft_delete = \"retired_at\""],
    ),
    // No side leads back, and each pilot has one at most.
    (
        ["", "", "", "belongs_to :harbour_pilot, class_name: \"Pilot\""],
        &["duties, relation harbour_pilot_id, kind = \"one-to-one\""],
    ),
    // By way of a class with one reference to each side.
    (
        [
            "has_many :pilotages, foreign_key: :harbour_pilot_id\nhas_many :port_calls, through: \
             :pilotages",
            "has_many :pilotages\nhas_many :harbour_pilots, through: :pilotages",
            "belongs_to :port_call\nbelongs_to :harbour_pilot, class_name: \"Pilot\"",
            "",
        ],
        &[
            "port_calls, relation through pilotages, attribute = \"harbour_pilots\"",
            "port_calls, relation through pilotages, inverse = \"port_calls\"",
        ],
    ),
    // Two references to a side: which one is followed is told.
    (
        [
            "",
            "has_many :pilotages\nhas_many :reliefs, through: :pilotages",
            "belongs_to :port_call\nbelongs_to :harbour_pilot, class_name: \"Pilot\"\nbelongs_to \
             :relief, class_name: \"Pilot\"",
            "",
        ],
        &[
            "port_calls, relation through pilotages, attribute = \"reliefs\"",
            "port_calls, relation through pilotages, through_fields = [\"port_call\",\"relief\"]",
        ],
    ),
    // The reference that comes first in between is that of the owner, whichever file is read first.
    (
        [
            "has_and_belongs_to_many :port_calls, foreign_key: :harbour_pilot_id",
            "has_and_belongs_to_many :harbour_pilots, class_name: \"Pilot\", \
             association_foreign_key: :harbour_pilot_id",
            "",
            "",
        ],
        &[
            "port_calls, relation through harbour_pilots_port_calls, attribute = \
             \"harbour_pilots\"",
            "port_calls, relation through harbour_pilots_port_calls, inverse = \"port_calls\"",
        ],
    ),
    // What steps say, all of its digits and the order of its keys too.
    (
        ["", "", "", ""],
        &[
            "port_calls, column dues, default in the database = \
             {\"literal\":\"12345678901234567890.5\"}",
            "harbour_pilots, index lower(\"name\") desc, include = [\"rank\"]",
        ],
    ),
];

fn line((key, value): (&FactKey, &serde_json::Value)) -> String {
    format!("{key} = {value}")
}

/// The facts of classes with these bodies.
fn found(bodies: &[&str; 4]) -> Vec<String> {
    let mut inputs = vec![("db/migrate/20260301060000_create_harbour.rb".into(), TABLES.into())];
    for (name, body) in ["Pilot", "PortCall", "Pilotage", "Duty"].iter().zip(bodies) {
        let table = if *name == "Pilot" { "self.table_name = \"harbour_pilots\"\n" } else { "" };
        let path = format!("app/models/{}.rb", name.to_lowercase());
        inputs.push((path, format!("class {name} < ActiveRecord::Base\n{table}{body}\nend\n")));
    }
    let read = read(inputs, &DIALECT, &mut Settings::default(), &NoFiles);
    facts(&read.schema).iter().map(line).collect()
}

#[test]
fn classes_say_what_their_tables_do_not() {
    for (bodies, wanted) in CASES {
        let found = found(bodies);
        for fact in *wanted {
            assert!(found.iter().any(|line| line == fact), "{fact}\n{bodies:?}\n{found:#?}");
        }
    }
    for (bodies, beginning) in NOT {
        let found = found(bodies);
        let none = !found.iter().any(|line| line.starts_with(beginning));
        assert!(none, "{beginning}\n{bodies:?}\n{found:#?}");
    }
}
