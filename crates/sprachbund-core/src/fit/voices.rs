//! Voices that one dialect has and another lacks: presence on input and in the code, formats, rules, texts, extras.
//! Each voice that is lacking altogether is one grouped loss.

use std::collections::BTreeMap;

use super::values::is_automatic;
use super::{Fitting, Grade, element};
use crate::dialect::Feature;
use crate::history::sql;
use crate::quoting::sql as quoting;
use crate::schema::facts::{FactKey, relation_element};
use crate::schema::{Entity, Extras, Type};

/// Fits the voices of every entity.
pub(super) fn fit(fitting: &mut Fitting) {
    labels(fitting);
    code_values(fitting);
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            presence(fitting, entity, at);
            rules(fitting, entity, at);
            texts(fitting, entity, at);
        }
        extras_of_fields(fitting, entity);
        extras_of_entity(fitting, entity);
    });
    extras_of_relations(fitting);
}

fn fact(entity: &Entity, at: usize, aspect: &str) -> FactKey {
    FactKey::new(&entity.table, format!("column {}", entity.fields[at].column), aspect)
}

/// Texts of enumeration members: TypeScript's enumerations have none, and lists in place have no names of their own.
fn labels(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::DisplayLabel) {
        for enumeration in fitting.schema.enums.iter_mut().filter(|enumeration| enumeration.inline) {
            let unlabelled = enumeration.members.iter().any(|member| member.label.is_none());
            if unlabelled {
                enumeration.members.iter_mut().for_each(|member| member.label = member.label.take().or_else(|| Some(member.name.clone())));
                let fact = FactKey::new("", format!("enum {}", enumeration.name), "members");
                let name = enumeration.name.clone();
                fitting.losses.add(Grade::Added, "choices need a text to show".into(), "the value is the text".into(), name, vec![fact]);
            }
        }
        stored_names(fitting);
        return;
    }
    let mut changed = Vec::new();
    for enumeration in &mut fitting.schema.enums {
        let labelled = enumeration.members.iter().any(|member| member.label.is_some());
        enumeration.members.iter_mut().for_each(|member| member.label = None);
        if labelled {
            changed.push(enumeration.name.clone());
        }
    }
    for name in changed {
        let fact = FactKey::new("", format!("enum {name}"), "members");
        fitting.lose(
            Grade::Dropped,
            "members of an enumeration have no texts to show",
            "keep the texts where records are shown",
            name,
            vec![fact],
        );
    }
}

/// What members are worth in the code goes where that is what is stored.
fn code_values(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::CodeValues) {
        return;
    }
    let mut changed = Vec::new();
    for enumeration in &mut fitting.schema.enums {
        if enumeration.members.iter().any(|member| member.in_code.is_some()) {
            enumeration.members.iter_mut().for_each(|member| member.in_code = None);
            changed.push(enumeration.name.clone());
        }
    }
    for name in changed {
        let fact = FactKey::new("", format!("enum {name}"), "members");
        let counted = fitting.losses.telling(&fact).is_some();
        let reason = "members of an enumeration are worth in the code what the database stores";
        let facts = if counted { Vec::new() } else { vec![fact] };
        fitting.lose(Grade::Weakened, reason, "code that compares with other values must be changed", name, facts);
    }
}

/// Without enumeration types in the database, their stored names go with the types.
fn stored_names(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::EnumType) {
        return;
    }
    let mut changed = Vec::new();
    for enumeration in fitting.schema.enums.iter_mut().filter(|enumeration| enumeration.stored_name.is_some()) {
        enumeration.stored_name = None;
        changed.push(enumeration.name.clone());
    }
    for name in changed {
        let fact = FactKey::new("", format!("enum {name}"), "members");
        let counted = fitting.losses.telling(&fact).is_some();
        let facts = if counted { Vec::new() } else { vec![fact] };
        if !facts.is_empty() {
            fitting.lose(Grade::Dropped, "an enumeration type of the database is not made", "its stored name is not used", name, facts);
        }
    }
}

fn presence(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let column = element(entity, &entity.fields[at].column);
    let join = !entity.mapped.code;
    let as_column = fitting.conventions.nullable_as_in_code && join;
    let field = &mut entity.fields[at];
    let automatic = is_automatic(field);
    match (field.required_on_input, fitting.conventions.input_voice) {
        (Some(_), false) => {
            field.required_on_input = None;
            let fact = fact(entity, at, "required_on_input");
            fitting.lose(
                Grade::Dropped,
                format!("{} does not validate input", fitting.framework),
                "check what is required where input is validated",
                column.clone(),
                vec![fact],
            );
        }
        (None, true) => {
            field.required_on_input = Some(!automatic && (!field.nullable || join));
            let fact = fact(entity, at, "required_on_input");
            let reason = format!("{} also says what input must give", fitting.framework);
            fitting.lose(Grade::Added, reason, "what the column lets be null may be left out", column.clone(), vec![fact]);
        }
        _ => {}
    }
    let field = &mut entity.fields[at];
    let follows = fitting.conventions.code_as_column && !join;
    let as_said = field.nullable;
    let read_as_empty = fitting.conventions.arrays_nullable && matches!(field.r#type, Type::Array(_));
    match (field.optional_in_code, fitting.conventions.code_voice) {
        (Some(_), true) if read_as_empty => {
            field.optional_in_code = None;
            let fact = fact(entity, at, "optional_in_code");
            let reason = format!("{} reads null as an empty array", fitting.framework);
            fitting.lose(Grade::Respelled, reason, "its type in the code says nothing of null", column, vec![fact]);
        }
        (None, true) if read_as_empty => {}
        (Some(optional), true) if follows && optional != as_said => {
            field.optional_in_code = Some(as_said);
            let fact = fact(entity, at, "optional_in_code");
            let reason = format!("the type of a {} attribute says of null what the column says", fitting.framework);
            let grade = if as_said { Grade::Weakened } else { Grade::Strengthened };
            fitting.lose(grade, reason, "it follows the column", column, vec![fact]);
        }
        (Some(_), false) => {
            field.optional_in_code = None;
            let fact = fact(entity, at, "optional_in_code");
            fitting.lose(
                Grade::Dropped,
                format!("types of {} attributes do not say what may be missing", fitting.framework),
                "the column still says it",
                column,
                vec![fact],
            );
        }
        (None, true) => {
            field.optional_in_code = Some(if follows { as_said } else { field.nullable && (as_column || !join) });
            let fact = fact(entity, at, "optional_in_code");
            let reason = "the type in the code also says what may be missing";
            fitting.lose(Grade::Added, reason, "it follows the column", column, vec![fact]);
        }
        _ => {}
    }
}

fn rules(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    if entity.fields[at].rules.is_empty() {
        return;
    }
    let column = element(entity, &entity.fields[at].column);
    let facts = vec![fact(entity, at, "rules")];
    if !fitting.capabilities.has(Feature::InputRules) {
        entity.fields[at].rules.clear();
        let reason = format!("{} does not validate input", fitting.framework);
        fitting.lose(Grade::Dropped, reason, "check these rules where input is validated", column, facts);
    } else {
        let before = entity.fields[at].rules.len();
        entity.fields[at].rules.retain(|rule| rule.value.get("code").is_none());
        if entity.fields[at].rules.len() < before {
            fitting.lose(Grade::Dropped, "a rule is made by code that only its own file can name", "add it by hand", column, facts);
        }
    }
}

/// Comments and collations.
fn texts(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let column = element(entity, &entity.fields[at].column);
    if let Some(text) = entity.fields[at].comment.clone().filter(|_| !fitting.capabilities.has(Feature::ColumnComment)) {
        entity.fields[at].comment = None;
        let moved =
            sql::comment(&quoting::name(&entity.table, fitting.database()), Some(&entity.fields[at].column), &text, fitting.database());
        let facts = vec![fact(entity, at, "comment")];
        match moved {
            Some(statement) => {
                fitting.script.push(statement);
                fitting.lose(Grade::Moved, "the comment of a column cannot be said", "the script adds it", column.clone(), facts);
            }
            None => fitting.lose(
                Grade::Dropped,
                "the comment of a column cannot be said",
                "this server keeps none either",
                column.clone(),
                facts,
            ),
        }
    }
    if entity.fields[at].collation.is_some() && !fitting.capabilities.has(Feature::Collation) {
        entity.fields[at].collation = None;
        fitting.lose(
            Grade::Weakened,
            "the collation of a column cannot be said",
            "the database's own is used",
            column,
            vec![fact(entity, at, "collation")],
        );
    }
}

/// Splits off what cannot go along: all of it abroad; at home, code that only its own file can name.
fn unsayable(fitting: &Fitting, extras: &mut Extras) -> BTreeMap<String, String> {
    let kept_words = ["symmetrical", "required_on_input", "through_fields"];
    let home = fitting.home;
    let stays = |name: &str, value: &serde_json::Value| {
        (home && value.get("code").is_none()) || (!fitting.conventions.join_columns && kept_words.contains(&name))
    };
    let gone: Vec<String> = extras.iter().filter(|(name, value)| !stays(name, value)).map(|(name, _)| name.clone()).collect();
    gone.into_iter().map(|name| (name.clone(), extras.remove(&name).map_or(String::new(), |value| value.to_string()))).collect()
}

fn lose_extras(fitting: &mut Fitting, gone: BTreeMap<String, String>, column: &str, key: impl Fn(&str) -> FactKey) {
    for name in gone.into_keys() {
        let (reason, instead) = if fitting.home {
            (format!("`{name}` is code that only its own file can name"), "add it by hand".to_owned())
        } else {
            (format!("`{name}` has no meaning outside its own framework"), "left out".to_owned())
        };
        let fact = key(&format!("extra {name}"));
        fitting.lose(Grade::Dropped, reason, instead, column.to_owned(), vec![fact]);
    }
}

fn extras_of_fields(fitting: &mut Fitting, entity: &mut Entity) {
    for at in 0..entity.fields.len() {
        let column = element(entity, &entity.fields[at].column);
        let gone = unsayable(fitting, &mut entity.fields[at].extras);
        let (table, stored) = (entity.table.clone(), format!("column {}", entity.fields[at].column));
        lose_extras(fitting, gone, &column, |aspect| FactKey::new(&table, stored.clone(), aspect));
    }
}

/// What of a constraint or index that stays cannot go along.
pub(super) fn extras_of_constraint(fitting: &mut Fitting, entity: &Entity, element: &str, extras: &mut Extras) {
    let gone = unsayable(fitting, extras);
    lose_extras(fitting, gone, &format!("{}: {element}", entity.name), |aspect| FactKey::new(&entity.table, element, aspect));
}

fn extras_of_entity(fitting: &mut Fitting, entity: &mut Entity) {
    let gone = unsayable(fitting, &mut entity.extras);
    let same_table = entity.inherits.as_ref().is_some_and(|inherits| inherits.how == crate::schema::Inheritance::SameTable);
    let table = if same_table { format!("{} as {}", entity.table, entity.name) } else { entity.table.clone() };
    lose_extras(fitting, gone, &entity.id.clone(), |aspect| FactKey::new(&table, "", aspect));
}

fn extras_of_relations(fitting: &mut Fitting) {
    for owner in 0..fitting.schema.entities.len() {
        for at in 0..fitting.schema.entities[owner].relations.len() {
            let relation = &fitting.schema.entities[owner].relations[at];
            let stored = relation_element(&fitting.schema, relation);
            let (table, name) = (fitting.schema.entities[owner].table.clone(), fitting.schema.entities[owner].name.clone());
            let column = format!("{name}.{}", relation.name.as_deref().unwrap_or_default());
            let mut extras = std::mem::take(&mut fitting.schema.entities[owner].relations[at].extras);
            let gone = unsayable(fitting, &mut extras);
            fitting.schema.entities[owner].relations[at].extras = extras;
            lose_extras(fitting, gone, &column, |aspect| FactKey::new(&table, stored.clone(), aspect));
        }
    }
}
