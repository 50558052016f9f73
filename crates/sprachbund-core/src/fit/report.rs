//! The loss report: the facts in which two schemas differ, each joined to the cause that a pass
//! left on it.
//!
//! Of several causes the gravest counts, so that no later pass makes light of an earlier one; of
//! equally grave ones the one that touches more, then the first. A difference without a cause has
//! [`Cause::Unexplained`]; a cause without a difference vanishes.

use std::collections::{HashMap, HashSet};

use serde::Serialize;

use super::causes::{Cause, Rows, Speaker, Words, find};
use super::documents::Crossed;
use super::{Grade, element};
use crate::schema::facts::{Aspect, Difference, Element, FactKey, TableKeys, differences};
use crate::schema::{Entity, Schema};

/// One change of meaning, or a group of equal ones.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Change {
    pub grade: Grade,
    /// What cannot be said, and why.
    pub reason: String,
    /// What was done.
    pub result: String,
    /// What a person must do; empty for nothing.
    pub to_do: String,
    /// The elements concerned, by entity and attribute.
    pub elements: Vec<String>,
    /// The facts that differ.
    pub facts: Vec<FactKey>,
}

/// What a cause is left on.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(super) enum Touched {
    Fact(FactKey),
    /// All facts of an element of a table.
    Element(String, Element),
    /// All facts of a table.
    Table(String),
}

impl From<FactKey> for Touched {
    fn from(fact: FactKey) -> Self {
        Touched::Fact(fact)
    }
}

#[derive(Clone, Debug)]
struct Noted {
    cause: Cause,
    /// When it was left, among all.
    order: usize,
}

/// The causes that passes have left so far.
#[derive(Debug, Default)]
pub(super) struct Causes {
    noted: HashMap<Touched, Noted>,
    /// What the target refuses although nothing of it differs, by the element concerned.
    refused: Vec<(String, Cause)>,
    next: usize,
}

impl Causes {
    /// Leaves a cause on something that a pass changes, unless a graver one or one as grave is
    /// there.
    pub(super) fn note(&mut self, touched: impl Into<Touched>, cause: impl Into<Cause>) {
        self.note_all([touched.into()], cause);
    }

    /// Leaves one cause on all that one change touches; the first of them that differs names it.
    pub(super) fn note_all(
        &mut self,
        all: impl IntoIterator<Item = Touched>,
        cause: impl Into<Cause>,
    ) {
        let noted = Noted { cause: cause.into(), order: self.next };
        self.next += 1;
        for touched in all {
            match self.noted.get(&touched) {
                // Of equally grave ones the first: it is nearest to what the author wrote.
                Some(known) if known.cause.grade() <= noted.cause.grade() => {}
                _ => _ = self.noted.insert(touched, noted.clone()),
            }
        }
    }

    /// Says why the target refuses an element, of which nothing differs.
    pub(super) fn refuse(&mut self, element: String, cause: impl Into<Cause>) {
        self.refused.push((element, cause.into()));
    }

    /// The cause of a difference, and whether it touches the whole table.
    fn of(&self, key: &FactKey) -> Option<(&Noted, bool)> {
        let whole = self.noted.get(&Touched::Table(key.table.clone()));
        let of_element = self.noted.get(&Touched::Element(key.table.clone(), key.element.clone()));
        let own = self.noted.get(&Touched::Fact(key.clone()));
        let known = [
            whole.map(|noted| (noted, true)),
            of_element.map(|noted| (noted, false)),
            own.map(|noted| (noted, false)),
        ];
        // `min_by_key` takes the first of equals: a cause that touches more explains more.
        known.into_iter().flatten().min_by_key(|(noted, _)| noted.cause.grade())
    }

    /// What the target refuses, in the form of changes without facts.
    pub(super) fn refusals(&self, speaker: &Speaker<'_>) -> Vec<Change> {
        let mut groups = Groups::default();
        for (order, (element, cause)) in self.refused.iter().enumerate() {
            groups.add(cause.words(speaker), order, element.clone(), None);
        }
        groups.sorted()
    }

    /// The report of all differences between `before` and `after`. `crossing` is what carried the
    /// schema over before the passes that left these causes, if anything did.
    pub(super) fn report(
        &self,
        (before, after): (&Schema, &Schema),
        speaker: &Speaker<'_>,
        crossing: Option<&Crossing<'_>>,
        otherwise: impl Fn(&Difference) -> Cause,
    ) -> Vec<Change> {
        let found = differences(before, after);
        let differs: HashSet<&FactKey> = found.iter().map(|difference| &difference.key).collect();
        let (one, two) = (Tables::of(before), Tables::of(after));
        let mut groups = Groups::default();
        for difference in &found {
            let key = &difference.key;
            let of_fact = explaining(key, &differs);
            // The last who changed it says why, though it be under the table's new name.
            let of_fact = match crossing {
                Some(crossing) => crossing.under_new_name(of_fact),
                None => of_fact,
            };
            let crossed = crossing.filter(|crossing| !crossing.changed_later.contains(&of_fact));
            let named = match crossed {
                Some(crossing) => crossing.causes.of(&of_fact),
                None => self
                    .of(&of_fact)
                    .or_else(|| crossing.and_then(|crossing| crossing.causes.of(&of_fact))),
            };
            let (words, order, whole) = match named {
                Some((noted, whole)) => (noted.cause.words(speaker), noted.order, whole),
                None => {
                    let cause = crossed.map_or_else(
                        || otherwise(difference),
                        |crossing| crossing.cause(difference),
                    );
                    (cause.words(speaker), UNORDERED, one.has(&key.table) != two.has(&key.table))
                }
            };
            groups.add(words, order, one.name(&two, key, whole), Some(key.clone()));
        }
        groups.sorted()
    }
}

/// What carried a schema over between tables and documents, before anything else was fitted.
pub(super) struct Crossing<'c> {
    pub(super) causes: &'c Causes,
    /// What becomes of facts on which it left no cause.
    pub(super) rows: Rows,
    /// Facts that were changed after it.
    changed_later: HashSet<FactKey>,
    one_sided: HashSet<String>,
    renamed: &'c HashMap<String, String>,
}

impl<'c> Crossing<'c> {
    /// The way from `before` by `between` to `after`.
    pub(super) fn of(crossed: &'c Crossed, before: &Schema, after: &Schema) -> Self {
        let (one, two) = (Tables::of(before), Tables::of(after));
        let (old, new) =
            (one.by_key.keys().collect::<HashSet<_>>(), two.by_key.keys().collect::<HashSet<_>>());
        Crossing {
            causes: &crossed.causes,
            rows: crossed.rows,
            changed_later: differences(&crossed.schema, after)
                .into_iter()
                .map(|difference| difference.key)
                .collect(),
            renamed: &crossed.renamed,
            one_sided: old.symmetric_difference(&new).map(|table| (*table).clone()).collect(),
        }
    }

    /// The fact as later passes know it, if one of them changed it.
    fn under_new_name(&self, key: FactKey) -> FactKey {
        let Some(table) = self.renamed.get(&key.table) else { return key };
        let renamed = FactKey { table: table.clone(), ..key.clone() };
        if self.changed_later.contains(&renamed) { renamed } else { key }
    }

    /// Why it changed a fact; of a table that is new or gone, its last row speaks.
    fn cause(&self, difference: &Difference) -> Cause {
        let row = match self.one_sided.contains(&difference.key.table) {
            true => self.rows.last().map(|(.., row)| row),
            false => find(self.rows, &difference.key),
        };
        row.map_or(Cause::Unexplained, Cause::from)
    }
}

/// The fact whose cause explains another: what a server calls a type differs where the type does.
fn explaining(key: &FactKey, differs: &HashSet<&FactKey>) -> FactKey {
    let of_type = FactKey { aspect: Aspect::Type, ..key.clone() };
    if key.aspect == Aspect::HeldAs && differs.contains(&of_type) { of_type } else { key.clone() }
}

/// The order of a cause that no pass left.
const UNORDERED: usize = usize::MAX;

/// Changes of equal words.
#[derive(Default)]
struct Groups {
    places: HashMap<Words, usize>,
    groups: Vec<Group>,
}

struct Group {
    words: Words,
    /// The elements with the time at which their cause was left.
    elements: Vec<(usize, String)>,
    named: HashSet<String>,
    orders: HashSet<usize>,
    facts: Vec<FactKey>,
}

impl Groups {
    fn add(&mut self, words: Words, order: usize, element: String, fact: Option<FactKey>) {
        let at = *self.places.entry(words).or_insert_with_key(|words| {
            self.groups.push(Group {
                words: words.clone(),
                elements: Vec::new(),
                named: HashSet::new(),
                orders: HashSet::new(),
                facts: Vec::new(),
            });
            self.groups.len() - 1
        });
        let group = &mut self.groups[at];
        group.facts.extend(fact);
        // One change that touches several elements is named once.
        let again = order != UNORDERED && !group.orders.insert(order);
        if !again && group.named.insert(element.clone()) {
            group.elements.push((order, element));
        }
    }

    /// The gravest first, then in the order in which passes met them.
    fn sorted(mut self) -> Vec<Change> {
        for group in &mut self.groups {
            group.elements.sort_by_key(|(order, _)| *order);
        }
        let first = |group: &Group| group.elements.first().map_or(UNORDERED, |(order, _)| *order);
        self.groups.sort_by_key(|group| (group.words.grade, first(group)));
        let change = |group: Group| {
            let Words { grade, reason, result, to_do } = group.words;
            let elements = group.elements.into_iter().map(|(_, element)| element).collect();
            Change { grade, reason, result, to_do, elements, facts: group.facts }
        };
        self.groups.into_iter().map(change).collect()
    }
}

/// The tables of a schema.
struct Tables<'s> {
    /// By their names in facts.
    by_key: HashMap<String, &'s Entity>,
    /// Their stored names by the ids of their entities.
    stored: HashMap<&'s str, &'s str>,
}

impl<'s> Tables<'s> {
    fn of(schema: &'s Schema) -> Self {
        let keys = TableKeys::of(schema);
        Tables {
            by_key: schema.entities.iter().map(|entity| (keys.key(entity), entity)).collect(),
            stored: schema
                .entities
                .iter()
                .map(|entity| (entity.id.as_str(), entity.table.as_str()))
                .collect(),
        }
    }

    fn has(&self, table: &str) -> bool {
        self.by_key.contains_key(table)
    }

    /// What people call the element of a fact: `Berth.quay`, `Berth (quay_id)` for a column without
    /// an attribute, `Berth: index quay_id`.
    fn name(&self, after: &Tables<'_>, key: &FactKey, whole: bool) -> String {
        let known = [self.by_key.get(&key.table), after.by_key.get(&key.table)];
        // What is only in one of the two is named as that one names it.
        let has = |entity: &&Entity| match &key.element {
            Element::Column(column) => entity.field(column).is_some(),
            Element::Relation(columns) => entity.relation_over(columns).is_some(),
            _ => true,
        };
        let Some(entity) = known
            .into_iter()
            .flatten()
            .find(|entity| has(entity))
            .or(known.into_iter().flatten().next())
        else {
            return match &key.element {
                Element::Enumeration(name) => name.clone(),
                _ => key.table.clone(),
            };
        };
        let class = &entity.name;
        match &key.element {
            _ if whole => class.clone(),
            Element::Table | Element::Key => class.clone(),
            Element::Column(column) => element(entity, column),
            Element::Relation(columns) | Element::ForeignKey(columns) => {
                match entity.relation_over(columns).and_then(|relation| relation.name.as_ref()) {
                    Some(name) => format!("{class}.{name}"),
                    None => format!("{class} ({})", columns.join(", ")),
                }
            }
            Element::Unique(columns) => format!("{class} ({})", columns.join(", ")),
            Element::Check(text) => {
                let name = entity
                    .checks
                    .iter()
                    .find(|check| check.expression.text == *text)
                    .and_then(|check| check.name.as_ref());
                format!("{class}: {}", name.unwrap_or(text))
            }
            Element::Exclusion(text) => {
                let name = entity
                    .exclusions
                    .iter()
                    .find(|check| check.expression.text == *text)
                    .and_then(|check| check.name.as_ref());
                format!("{class}: {}", name.unwrap_or(text))
            }
            Element::Join(table) => {
                let through = |id: &str| {
                    [self, after]
                        .iter()
                        .any(|tables| tables.stored.get(id) == Some(&table.as_str()))
                };
                let known = entity
                    .relations
                    .iter()
                    .find(|relation| relation.through.as_deref().is_some_and(through));
                match known.and_then(|relation| relation.name.as_ref()) {
                    Some(name) => format!("{class}.{name}"),
                    None => format!("{class}: {}", key.element),
                }
            }
            Element::Index { .. } | Element::Enumeration(_) => format!("{class}: {}", key.element),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fit::UNEXPLAINED;
    use crate::fit::causes::enumerations::OfEnumeration;
    use crate::fit::causes::keys::OfKey;
    use crate::fit::causes::layers::OfLayer;
    use crate::fit::causes::tables::OfTable;
    use crate::fit::causes::types::OfType;
    use crate::schema::json;

    /// A table with a column of this type and these further words.
    fn schema(ty: &str, more: &str) -> Schema {
        let text = format!(
            r#"{{"sprachbund":1,"source":{{"dialect":"django","version":"5.2"}},"entities":[
            {{"id":"h.Quay","name":"Quay","module":"h","table":"quays","mapped":{{"table":true,
                "code":true}},
             "fields":[{{"name":"deep","column":"depth","type":"{ty}",
                 "nullable":false{more}}}]}}]}}"#
        );
        json::read(&text).expect("a valid schema")
    }

    fn fact(aspect: Aspect) -> FactKey {
        FactKey::new("quays", Element::column("depth"), aspect)
    }

    fn report(causes: &Causes, before: &Schema, after: &Schema) -> Vec<String> {
        let speaker = Speaker { framework: "Target", server: "Server" };
        let changes = causes.report((before, after), &speaker, None, |_| Cause::Unexplained);
        changes
            .into_iter()
            .map(|change| {
                format!("{} {}: {}", change.grade.word(), change.reason, change.elements.join(", "))
            })
            .collect()
    }

    #[test]
    fn a_cause_without_a_difference_vanishes_and_a_difference_without_a_cause_is_named() {
        let (before, after) = (schema("integer", ""), schema("bigint", ""));
        let mut causes = Causes::default();
        causes.note(fact(Aspect::Comment), OfLayer::NoCollation);
        assert_eq!(report(&causes, &before, &before), [] as [&str; 0]);
        assert_eq!(report(&causes, &before, &after), [format!("dropped {UNEXPLAINED}: Quay.deep")]);
    }

    #[test]
    fn of_several_causes_the_gravest_counts_then_the_first() {
        let (before, after) = (schema("integer", ""), schema("bigint", ""));
        let respelled = || OfType::FollowsKey(crate::schema::Type::BigInt);
        let cases: [(&[OfType], &str); 3] = [
            (&[respelled(), OfType::NullableArrays], "weakened"),
            (&[OfType::NullableArrays, respelled()], "weakened"),
            (&[OfType::FractionsOnRequest, respelled()], "respelled this server keeps fractions"),
        ];
        for (left, begins) in cases {
            let mut causes = Causes::default();
            left.iter().for_each(|cause| causes.note(fact(Aspect::Type), cause.clone()));
            let told = report(&causes, &before, &after);
            assert!(told.len() == 1 && told[0].starts_with(begins), "{told:?}");
        }
    }

    #[test]
    fn a_cause_of_a_whole_table_names_it_once() {
        let before = schema("integer", r#","comment":"low water""#);
        let mut after = before.clone();
        after.entities.clear();
        let mut causes = Causes::default();
        causes.note(Touched::Table("quays".to_owned()), OfTable::NoSecondClass);
        assert_eq!(
            report(&causes, &before, &after),
            ["dropped Target has no second class over one table: Quay"]
        );
    }

    #[test]
    fn what_one_change_touches_is_named_once() {
        let (before, after) =
            (schema("integer", r#","comment":"low water""#), schema("bigint", ""));
        let (mut apart, mut together) = (Causes::default(), Causes::default());
        for aspect in [Aspect::Type, Aspect::Comment] {
            apart.note(fact(aspect), OfEnumeration::NoLabels);
        }
        together.note_all(
            [Aspect::Type, Aspect::Comment].map(|aspect| fact(aspect).into()),
            OfEnumeration::NoLabels,
        );
        for causes in [apart, together] {
            let speaker = Speaker { framework: "", server: "" };
            let changes = causes.report((&before, &after), &speaker, None, |_| Cause::Unexplained);
            assert_eq!(
                (changes.len(), changes[0].elements.len(), changes[0].facts.len()),
                (1, 1, 2)
            );
        }
    }

    #[test]
    fn what_is_refused_is_told_although_nothing_differs() {
        let mut causes = Causes::default();
        causes.refuse("Quay".to_owned(), OfKey::Keyless);
        let refused = causes.refusals(&Speaker { framework: "Target", server: "Server" });
        assert_eq!(
            (refused.len(), refused[0].facts.len(), refused[0].elements.as_slice()),
            (1, 0, &["Quay".to_owned()][..])
        );
    }
}
