//! MariaDB 10.11, as seen. What it shares with MySQL stands there.

use super::{
    Comments, Drops, Enumerations, Folds, HeldWord, LongNames, LongestIndex, Server, SilentDecimal,
    Unbounded, WholeNumbers, mysql, reserved,
};
use crate::schema::Identity;
use crate::schema::{Entity, Unique};

pub(crate) const SERVER: Server = Server {
    id: "mariadb",
    title: "MariaDB",
    // Characters (documentation, "Identifier Names").
    identifier_limit: 64,
    keeps_documents: false,
    quotes: mysql::QUOTES,
    statements: mysql::STATEMENTS,
    lacks: mysql::LACKS,
    since: &[],
    words: mysql::WORDS,
    type_name: mysql::type_name,
    reads_itself: mysql::reads_itself,
    whole_numbers: WholeNumbers::SignedAndUnsigned,
    indexes_references: true,
    // It refuses the step where a unique constraint or the key has more columns, so nothing need be
    // told apart.
    drops_column: Drops::ItsPlaceInKeys,
    keeps_fractions: false,
    enumerations: Enumerations::InColumns,
    unbounded: Unbounded::Digest,
    comments: Comments::InTables,
    arrays: false,
    adds_constraints: true,
    // Its grammar has no NOT NULL for them (documentation, "Generated Columns").
    generated_not_null: false,
    two_moments: false,
    makes_uuids: true,
    updates_columns: true,
    varchar_needs_length: true,
    numbers_rows: false,
    several_words: true,
    keeps_word: mysql::keeps_word,
    held_word: HeldWord::MysqlOfRow,
    kept_type: |word| mysql::kept_type(&SERVER, word),
    rewrites: mysql::in_stored_words,
    truth_values: false,
    // InnoDB refuses at once either way (documentation, "FOREIGN KEY Constraints").
    restricts_at_once: true,
    one_kind_of_index: false,
    holds_types: true,
    zoned_times: false,
    silent_decimal: SilentDecimal::Whole,
    checks_json: false,
    collations: Some("MySQL"),
    alters_nullability: false,
    identities: &[Identity::ByDefault],
    functions: mysql::FUNCTIONS,
    long_names: LongNames::Refused,
    folds: Folds::Columns,
    index_names_by_table: true,
    reserved: &[
        reserved::EVERYWHERE,
        reserved::NOT_ON_POSTGRESQL,
        reserved::NOT_ON_SQLITE,
        RESERVED,
    ],
    // Seen on 10.11.19.
    longest_index: Some(LongestIndex { bytes: 3072, cuts: true }),
    can_refer: mysql::can_refer,
    refuses_unlike_references: true,
    refuses_other_breadth: true,
};

/// Whether it keeps a text without a bound unique as a whole, by a digest: not where a numbered
/// column stands beside it.
pub fn is_digested(entity: &Entity, unique: &Unique) -> bool {
    !unique
        .columns
        .iter()
        .any(|column| entity.field(column).is_some_and(|field| field.identity.is_some()))
}

/// Words that it alone keeps for itself.
const RESERVED: &str = "accessible asensitive before bigint blob by call cascade change char \
                        character condition continue convert cursor databases dec decimal \
                        declare delayed describe deterministic distinctrow div double dual \
                        each elseif enclosed escaped exit explain float force fulltext if \
                        ignore infile inout insensitive int integer interval iterate key keys \
                        kill leave linear lines load lock long longblob longtext loop match \
                        maxvalue mediumblob mediumint mediumtext middleint mod modifies \
                        numeric optimize optionally out outfile over partition portion \
                        precision procedure purge range read reads real recursive regexp \
                        release rename repeat replace require resignal restrict return revoke \
                        rlike rows schemas sensitive separator show signal smallint spatial \
                        specific sql sqlexception sqlstate sqlwarning ssl starting terminated \
                        tinyblob tinyint tinytext trigger undo unlock unsigned usage use \
                        varbinary varchar varcharacter varying while write xor zerofill";
