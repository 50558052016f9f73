//! MariaDB 10.11, as seen. What it shares with MySQL stands there.

use super::{
    Comments, Drops, Enumerations, Folds, HeldWord, LongNames, LongestIndex, Quotes, Server,
    SilentDecimal, Unbounded, WholeNumbers, mysql, reserved,
};
use crate::schema::{Entity, Unique};
use crate::schema::{Feature, Identity};

pub(crate) const SERVER: Server = Server {
    id: "mariadb",
    title: "MariaDB",
    // Characters (documentation, "Identifier Names").
    identifier_limit: 64,
    keeps_documents: false,
    quotes: Quotes { runs_comment, ..mysql::QUOTES },
    statements: mysql::STATEMENTS,
    lacks: LACKS,
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

const LACKS: &[Feature] = &[
    Feature::Deferrable,
    // It keeps RESTRICT instead, and says nothing (seen on 10.11.19 and 11.8.9).
    Feature::SetDefault,
    Feature::ExpressionIndex,
    Feature::OperatorClass,
    Feature::IndexMethod,
    Feature::CoveringIndex,
    Feature::PartialIndex,
    Feature::DeferrableUnique,
    Feature::NullsNotDistinct,
    Feature::Exclusion,
    Feature::NestedArray,
    Feature::Namespace,
];

/// The release that is meant where none is known.
const CURRENT: (u32, u32) = (11, 8);

/// As MySQL, but never what MySQL runs from 5.7 on; and what stands behind `M!` (documentation,
/// "Comment Syntax"; seen on 10.11.19 and 11.8.9).
fn runs_comment(comment: &str, release: Option<(u32, u32)>) -> Option<usize> {
    let (own, rest) = match comment.strip_prefix("M!") {
        Some(rest) => (true, rest),
        None => (false, comment.strip_prefix('!')?),
    };
    let digits = mysql::leading_digits(rest);
    let since: u32 = digits.parse().unwrap_or(0);
    let of_mysql = !own && (50_700..100_000).contains(&since);
    let runs = !of_mysql && since <= mysql::last_of(release.unwrap_or(CURRENT));
    runs.then_some(comment.len() - rest.len() + digits.len())
}

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
