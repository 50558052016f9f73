//! Voices that one dialect has and another lacks: presence on input and in the code, formats,
//! rules, texts, extras. Each voice that is lacking altogether is one grouped loss.

use super::Fitting;
use super::causes::Elsewhere;
use super::causes::enumerations::OfEnumeration;
use super::causes::layers::OfLayer;
use super::values::is_automatic;
use crate::dialect::Feature;
use crate::history::sql;
use crate::quoting::sql as quoting;
use crate::schema::facts::{Aspect, Element, FactKey, relation_element};
use crate::schema::{Entity, Extras, Type};

/// Fits the voices of every entity.
pub(super) fn fit(fitting: &mut Fitting) {
    labels(fitting);
    stored_names(fitting);
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
    words_of_relations(fitting);
}

/// Texts of enumeration members: TypeScript's enumerations have none, and lists in place have no
/// names of their own.
fn labels(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::DisplayLabel) {
        for enumeration in fitting.schema.enums.iter_mut().filter(|enumeration| enumeration.inline)
        {
            let unlabelled = enumeration.members.iter().any(|member| member.label.is_none());
            if unlabelled {
                enumeration.members.iter_mut().for_each(|member| {
                    member.label = member.label.take().or_else(|| Some(member.name.clone()))
                });
                fitting.causes.note(
                    FactKey::of_enumeration(&enumeration.name, Aspect::Labels),
                    OfEnumeration::LabelsNeeded,
                );
            }
        }
        return;
    }
    for enumeration in &mut fitting.schema.enums {
        enumeration.members.iter_mut().for_each(|member| member.label = None);
        fitting.causes.note(
            FactKey::of_enumeration(&enumeration.name, Aspect::Labels),
            OfEnumeration::NoLabels,
        );
    }
}

/// What members are worth in the code goes where that is what is stored.
fn code_values(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::CodeValues) {
        return;
    }
    for enumeration in &mut fitting.schema.enums {
        enumeration.members.iter_mut().for_each(|member| member.in_code = None);
        fitting.causes.note(
            FactKey::of_enumeration(&enumeration.name, Aspect::CodeValues),
            OfEnumeration::NoCodeValues,
        );
    }
}

/// Without enumeration types in the database, their stored names go with the types.
fn stored_names(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::EnumType) {
        return;
    }
    for enumeration in &mut fitting.schema.enums {
        enumeration.stored_name = None;
        fitting.causes.note(
            FactKey::of_enumeration(&enumeration.name, Aspect::StoredName),
            OfEnumeration::NoTypeToName,
        );
    }
}

fn presence(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let join = !entity.mapped.code;
    let as_column = fitting.conventions.nullability.follows_code && join;
    let field = &mut entity.fields[at];
    let automatic = is_automatic(field);
    match (field.required_on_input, fitting.conventions.layers.input) {
        (Some(_), false) => {
            field.required_on_input = None;
            fitting.because_column(entity, at, Aspect::RequiredOnInput, OfLayer::NoInput);
        }
        (None, true) => {
            field.required_on_input = Some(!automatic && (!field.nullable || join));
            fitting.because_column(entity, at, Aspect::RequiredOnInput, OfLayer::Input);
        }
        _ => {}
    }
    let field = &mut entity.fields[at];
    let follows = fitting.conventions.nullability.code_follows && !join;
    let as_said = field.nullable;
    let read_as_empty =
        fitting.conventions.nullability.arrays && matches!(field.r#type, Type::Array(_));
    match (field.optional_in_code, fitting.conventions.layers.code) {
        (Some(_), true) if read_as_empty => {
            field.optional_in_code = None;
            fitting.because_column(entity, at, Aspect::OptionalInCode, OfLayer::NullReadAsEmpty);
        }
        (None, true) if read_as_empty => {}
        (Some(optional), true) if follows && optional != as_said => {
            field.optional_in_code = Some(as_said);
            fitting.because_column(
                entity,
                at,
                Aspect::OptionalInCode,
                OfLayer::CodeFollowsColumn { optional: as_said },
            );
        }
        (Some(_), false) => {
            field.optional_in_code = None;
            fitting.because_column(entity, at, Aspect::OptionalInCode, OfLayer::NoCode);
        }
        (None, true) => {
            field.optional_in_code =
                Some(if follows { as_said } else { field.nullable && (as_column || !join) });
            fitting.because_column(entity, at, Aspect::OptionalInCode, OfLayer::Code);
        }
        _ => {}
    }
}

fn rules(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    if entity.fields[at].rules.is_empty() {
        return;
    }
    if !fitting.capabilities.has(Feature::InputRules) {
        entity.fields[at].rules.clear();
        fitting.because_column(entity, at, Aspect::Rules, OfLayer::NoInputRules);
    } else {
        let before = entity.fields[at].rules.len();
        entity.fields[at].rules.retain(|rule| rule.value.get("code").is_none());
        if entity.fields[at].rules.len() < before {
            fitting.because_column(entity, at, Aspect::Rules, OfLayer::RuleIsCode);
        }
    }
}

/// Comments and collations.
fn texts(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    if let Some(text) = entity.fields[at]
        .comment
        .clone()
        .filter(|_| !fitting.capabilities.has(Feature::ColumnComment))
    {
        entity.fields[at].comment = None;
        let moved = sql::comment(
            &quoting::name(&entity.table, fitting.database()),
            Some(&entity.fields[at].column),
            &text,
            fitting.database(),
        );
        let kept = if moved.is_some() { Elsewhere::Script } else { Elsewhere::Nowhere };
        fitting.script.extend(moved);
        fitting.because_column(entity, at, Aspect::Comment, OfLayer::Comment(kept));
    }
    if entity.fields[at].collation.is_some() && !fitting.capabilities.has(Feature::Collation) {
        entity.fields[at].collation = None;
        fitting.because_column(entity, at, Aspect::Collation, OfLayer::NoCollation);
    }
}

/// Takes away what cannot go along, with the cause: all of it abroad; at home, code that only its
/// own file can name.
fn unsayable(fitting: &Fitting, extras: &mut Extras) -> Vec<(String, OfLayer)> {
    let own = fitting.own_dialect;
    let gone: Vec<String> = extras
        .iter()
        .filter(|(_, value)| !own || value.get("code").is_some())
        .map(|(name, _)| name.clone())
        .collect();
    extras.retain(|name, _| !gone.contains(name));
    gone.into_iter()
        .map(|name| {
            (name.clone(), if own { OfLayer::WordIsCode(name) } else { OfLayer::OwnWord(name) })
        })
        .collect()
}

fn extras_of_fields(fitting: &mut Fitting, entity: &mut Entity) {
    for at in 0..entity.fields.len() {
        for (name, cause) in unsayable(fitting, &mut entity.fields[at].extras) {
            fitting.because_column(entity, at, Aspect::Extra(name), cause);
        }
    }
}

/// What of a constraint or index that stays cannot go along.
pub(super) fn extras_of_constraint(
    fitting: &mut Fitting,
    entity: &Entity,
    element: &Element,
    extras: &mut Extras,
) {
    for (name, cause) in unsayable(fitting, extras) {
        fitting.because(entity, element.clone(), Aspect::Extra(name), cause);
    }
}

fn extras_of_entity(fitting: &mut Fitting, entity: &mut Entity) {
    for (name, cause) in unsayable(fitting, &mut entity.extras) {
        fitting.because(entity, Element::Table, Aspect::Extra(name), cause);
    }
}

/// What is said of relations and their inverses in one dialect's words, and whether input must give
/// a many-to-many.
fn words_of_relations(fitting: &mut Fitting) {
    let validates = fitting.capabilities.has(Feature::InputVoice);
    for owner in 0..fitting.schema.entities.len() {
        let table = fitting.keys.key(&fitting.schema.entities[owner]);
        for at in 0..fitting.schema.entities[owner].relations.len() {
            let element =
                relation_element(&fitting.schema, &fitting.schema.entities[owner].relations[at]);
            let relation = &mut fitting.schema.entities[owner].relations[at];
            if !validates {
                relation.required_on_input = None;
            }
            let (mut own, mut inverse) = (
                std::mem::take(&mut relation.extras),
                std::mem::take(&mut relation.inverse_extras),
            );
            let gone = (unsayable(fitting, &mut own), unsayable(fitting, &mut inverse));
            let relation = &mut fitting.schema.entities[owner].relations[at];
            (relation.extras, relation.inverse_extras) = (own, inverse);
            fitting.causes.note(
                FactKey::new(&table, element.clone(), Aspect::RequiredOnInput),
                OfLayer::NoInput,
            );
            for (name, cause) in gone.0 {
                fitting
                    .causes
                    .note(FactKey::new(&table, element.clone(), Aspect::Extra(name)), cause);
            }
            for (name, cause) in gone.1 {
                fitting
                    .causes
                    .note(FactKey::new(&table, element.clone(), Aspect::InverseExtra(name)), cause);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "django postgresql > typeorm postgresql",
            "class T(models.Model):
    a = models.IntegerField(null=True, blank=True)
    b = models.CharField(max_length=9, blank=True)
    c = models.CharField(max_length=9)
",
            &[
                "main_t, column a, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "main_t, column b, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "main_t, column c, required_on_input: \"required\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 TypeORM does not validate input)",
                "main_t, column a, optional_in_code: nothing -> \"optional\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column b, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column c, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
            ],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class T(models.Model):
    a = models.IntegerField(validators=[MinValueValidator(1), MaxValueValidator(9)])
    b = models.EmailField()
",
            &[
                "main_t, column a, required_on_input: \"required\" -> nothing (dropped: \
                 SQLAlchemy does not validate input)",
                "main_t, column b, required_on_input: \"required\" -> nothing (dropped: \
                 SQLAlchemy does not validate input)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 SQLAlchemy does not validate input)",
                "main_t, column a, rules: \
                 [{\"rule\":\"min_value\",\"value\":1,\"message\":null},\
                 {\"rule\":\"max_value\",\"value\":9,\"message\":null}] -> nothing (dropped: \
                 SQLAlchemy does not validate input)",
                "main_t, column a, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column b, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
            ],
        ),
        (
            "django postgresql > sequelize postgresql",
            "class T(models.Model):
    a = models.IntegerField(validators=[MinValueValidator(1)])
    b = models.CharField(max_length=9, help_text='what it is', verbose_name='A b')
",
            &[
                "main_t, column a, required_on_input: \"required\" -> nothing (dropped: \
                 Sequelize does not validate input)",
                "main_t, column b, required_on_input: \"required\" -> nothing (dropped: \
                 Sequelize does not validate input)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 Sequelize does not validate input)",
                "main_t, column a, rules: \
                 [{\"rule\":\"min_value\",\"value\":1,\"message\":null}] -> nothing (dropped: \
                 Sequelize does not validate input)",
                "main_t, column b, extra help_text: [\"what it is\"] -> nothing (dropped: \
                 `help_text` has no meaning outside its own framework)",
                "main_t, column b, extra verbose_name: [\"A b\"] -> nothing (dropped: \
                 `verbose_name` has no meaning outside its own framework)",
                "main_t, column a, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column b, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
            ],
        ),
        (
            "django postgresql > prisma postgresql",
            "class S(models.TextChoices):
    OPEN = 'open', 'Open today'
    SHUT = 'shut'

class T(models.Model):
    a = models.CharField(max_length=9, choices=S.choices)
",
            &[
                "enum S, labels: [\"Open today\",null] -> nothing (dropped: members of an \
                 enumeration have no texts to show)",
                "main_t, column a, required_on_input: \"required\" -> nothing (dropped: Prisma \
                 does not validate input)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: Prisma \
                 does not validate input)",
                "main_t, column a, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t, column id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
            ],
        ),
        (
            "typeorm postgresql > django postgresql",
            "@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
  @Column({ nullable: true })
  a!: string;
  @Column({ comment: 'what it is', collation: 'C' })
  b!: string;
  @Column({ select: false })
  c!: string;
}
",
            &[
                "t, column a, optional_in_code: \"required\" -> nothing (dropped: types of \
                 Django attributes do not say what may be missing)",
                "t, column b, optional_in_code: \"required\" -> nothing (dropped: types of \
                 Django attributes do not say what may be missing)",
                "t, column c, optional_in_code: \"required\" -> nothing (dropped: types of \
                 Django attributes do not say what may be missing)",
                "t, column id, optional_in_code: \"required\" -> nothing (dropped: types of \
                 Django attributes do not say what may be missing)",
                "t, column c, extra select: [false] -> nothing (dropped: `select` has no \
                 meaning outside its own framework)",
                "t, column a, required_on_input: nothing -> \"optional\" (added: Django also \
                 says what input must give)",
                "t, column b, required_on_input: nothing -> \"required\" (added: Django also \
                 says what input must give)",
                "t, column c, required_on_input: nothing -> \"required\" (added: Django also \
                 says what input must give)",
                "t, column id, required_on_input: nothing -> \"optional\" (added: Django also \
                 says what input must give)",
            ],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text COLLATE \"C\", b text); COMMENT ON \
             COLUMN t.a IS 'what it is';",
            &[
                "t, column a, required_on_input: nothing -> \"optional\" (added: Django also \
                 says what input must give)",
                "t, column b, required_on_input: nothing -> \"optional\" (added: Django also \
                 says what input must give)",
                "t, column id, required_on_input: nothing -> \"required\" (added: Django also \
                 says what input must give)",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text COLLATE \"C\"); COMMENT ON COLUMN \
             t.a IS 'what it is';",
            &[
                "t, column a, collation: \"C\" -> nothing (weakened: the collation of a column \
                 cannot be said)",
                "t, column a, comment: \"what it is\" -> nothing (moved: the comment of a \
                 column cannot be said)",
                "t, column a, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, column id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
                "script: COMMENT ON COLUMN \"t\".\"a\" IS 'what it is';",
            ],
        ),
        (
            "sql postgresql > typeorm sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a text); COMMENT ON COLUMN t.a IS 'what it \
             is';",
            &[
                "t, column a, comment: \"what it is\" -> nothing (dropped: the comment of a \
                 column cannot be said)",
                "t, column a, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, column id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
            ],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text NOT NULL DEFAULT '', b text);",
            &[
                "t, column a, optional_in_code: nothing -> \"required\" (added: the type in the \
                 code also says what may be missing)",
                "t, column b, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, column id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
            ],
        ),
        (
            "sql postgresql > sqlalchemy postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text NOT NULL, b text);",
            &[
                "t, column a, optional_in_code: nothing -> \"required\" (added: the type in the \
                 code also says what may be missing)",
                "t, column b, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, column id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
            ],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class T(models.Model):
    near = models.ManyToManyField('self')
    far = models.ManyToManyField('self', symmetrical=False, blank=True)
",
            &[
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 TypeORM does not validate input)",
                "main_t, relation through main_t_far, required_on_input: \"optional\" -> \
                 nothing (dropped: TypeORM does not validate input)",
                "main_t_far, column from_t_id, required_on_input: \"required\" -> nothing \
                 (dropped: TypeORM does not validate input)",
                "main_t_far, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 TypeORM does not validate input)",
                "main_t_far, column to_t_id, required_on_input: \"required\" -> nothing \
                 (dropped: TypeORM does not validate input)",
                "main_t_near, column from_t_id, required_on_input: \"required\" -> nothing \
                 (dropped: TypeORM does not validate input)",
                "main_t_near, column id, required_on_input: \"optional\" -> nothing (dropped: \
                 TypeORM does not validate input)",
                "main_t_near, column to_t_id, required_on_input: \"required\" -> nothing \
                 (dropped: TypeORM does not validate input)",
                "main_t, column id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "main_t_far, column from_t_id, optional_in_code: nothing -> \"required\" \
                 (added: the type in the code also says what may be missing)",
                "main_t_far, column id, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "main_t_far, column to_t_id, optional_in_code: nothing -> \"required\" (added: \
                 the type in the code also says what may be missing)",
                "main_t_near, column from_t_id, optional_in_code: nothing -> \"required\" \
                 (added: the type in the code also says what may be missing)",
                "main_t_near, column id, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "main_t_near, column to_t_id, optional_in_code: nothing -> \"required\" (added: \
                 the type in the code also says what may be missing)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
