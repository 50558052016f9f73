//! `show`: every table, column by column.

use comfy_table::{ContentArrangement, Table, presets};
use sprachbund_core::dialect::{Medium, nearest};
use sprachbund_core::schema::{
    Action, Default_, EnforcedBy, Entity, EntityKind, Field, Function, Origin, Part, Purpose,
    Schema,
};
use sprachbund_project::Project;

use crate::arguments::{Format, ShowOptions};
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, account, output};

pub(crate) fn run(options: &ShowOptions) -> Result<Outcome, Failure> {
    let project = Project::open(options.input.request(), &output::tell)?;
    let read = project.read(&project.session())?;
    let outcome = super::report_reading(&project, &read)?;
    super::something(&read)?;
    let schema = &read.schema;
    let chosen = choose(schema, &options.entity)?;
    match options.format {
        Format::Json => {
            let mut only = schema.clone();
            only.entities = chosen.into_iter().cloned().collect();
            output::result(&sprachbund_core::schema::json::write(&only))?;
        }
        Format::Human => {
            if options.entity.is_empty() {
                output::page(&summary(schema))?;
            }
            for entity in chosen {
                output::page(&one(schema, entity))?;
            }
            let meaning = match read.dialect.medium {
                Medium::Classes { .. } => format!(
                    "was not written: a convention of {} filled it in",
                    read.dialect.framework
                ),
                Medium::Statements { .. } => {
                    "is recognised, or made by the server; [recognise] in sprachbund.toml turns \
                     it off"
                        .to_owned()
                }
            };
            output::page(&format!("{FAINT}~ {meaning}{FAINT:#}\n"))?;
        }
    }
    Ok(outcome)
}

/// The entities named, by class, id or table.
fn choose<'s>(schema: &'s Schema, names: &[String]) -> Result<Vec<&'s Entity>, Failure> {
    if names.is_empty() {
        return Ok(schema.entities.iter().filter(|entity| !entity.external).collect());
    }
    let mut chosen = Vec::new();
    for name in names {
        let found: Vec<&Entity> = schema
            .entities
            .iter()
            .filter(|entity| [&entity.name, &entity.id, &entity.table].contains(&name))
            .collect();
        if found.is_empty() {
            let hint = nearest(name, schema.entities.iter().map(|entity| entity.name.as_str()))
                .map_or(String::new(), |name| format!("; did you mean `{name}`?"));
            return Err(Failure(format!("no entity or table is called `{name}`{hint}")));
        }
        chosen.extend(found);
    }
    Ok(chosen)
}

fn table(header: &[&str]) -> Table {
    let mut table = Table::new();
    table
        .load_style(presets::NOTHING)
        .set_content_arrangement(ContentArrangement::Dynamic)
        .set_width(super::width().min(usize::from(u16::MAX)) as u16);
    table.set_header(header.iter().copied());
    table
}

/// The table's text, each line stripped of the space behind it.
fn lines(table: &Table) -> String {
    table.lines().map(|line| format!("{}\n", line.trim_end())).collect()
}

fn summary(schema: &Schema) -> String {
    let mut overview = table(&["entity", "table", "columns", "refers to"]);
    for entity in schema.entities.iter().filter(|entity| !entity.external) {
        let mut targets: Vec<&str> =
            entity.relations.iter().map(|relation| short(&relation.target)).collect();
        targets.dedup();
        let name =
            if entity.mapped.code { entity.name.clone() } else { format!("({})", entity.name) };
        overview.add_row([
            name,
            entity.address(),
            entity.fields.len().to_string(),
            targets.join(", "),
        ]);
    }
    let source = &schema.source;
    format!(
        "{STRONG}{}{STRONG:#}, read as {} for {}\n\n{}\n",
        account::size(schema),
        format!("{} {}", source.dialect, source.version).trim_end(),
        source.database.id(),
        lines(&overview)
    )
}

fn short(id: &str) -> &str {
    id.rsplit('.').next().unwrap_or(id)
}

fn one(schema: &Schema, entity: &Entity) -> String {
    let place = match &entity.origin {
        Origin::Declared { file, line, .. } => format!("{file}:{line}"),
        Origin::Implied { implied } => format!("implied: {implied}"),
    };
    let implied = if entity.implied.has(Part::Table) { "~" } else { "" };
    let named = if entity.implied.has(Part::Name) { "~" } else { "" };
    let kind = match (entity.kind, &entity.owned_by) {
        (EntityKind::View, _) => "view",
        (EntityKind::Document, Some(_)) => "inside",
        (EntityKind::Document, None) => "collection",
        (EntityKind::Table, _) => "table",
    };
    let mut columns = table(&["column", "type", "null", "default", "key, index, reference"]);
    for field in &entity.fields {
        let whole = !field.origin.is_declared();
        let mark = |part: Part| if whole || field.implied.has(part) { "~" } else { "" };
        // What the database does not hold, the application may require.
        let required = entity.kind == EntityKind::Document && field.required_on_input == Some(true);
        let null = match (field.nullable, required) {
            (true, true) => "no (application)".to_owned(),
            (true, false) => format!("{}yes", mark(Part::Nullable)),
            (false, _) => format!("{}no", mark(Part::Nullable)),
        };
        let ty = format!("{}{}", if whole { "~" } else { "" }, field.r#type);
        columns.add_row([
            format!(
                "{}{}",
                if field.name.as_deref() == Some(&*field.column) && !whole {
                    ""
                } else {
                    mark(Part::Column)
                },
                field.column
            ),
            ty,
            null,
            default(field),
            keys(schema, entity, field),
        ]);
    }
    let mut out = format!(
        "{STRONG}{named}{}{STRONG:#}  {kind} {implied}{}  {FAINT}{place}{FAINT:#}\n{}",
        entity.name,
        entity.address(),
        lines(&columns)
    );
    for line in below(entity) {
        out.push_str(&format!(" {line}\n"));
    }
    out.push('\n');
    out
}

/// The mark of what a convention filled in.
fn tilde(origin: &Origin) -> &'static str {
    if origin.is_declared() { "" } else { "~" }
}

/// What fills a column in, and who does.
fn default(field: &Field) -> String {
    let mut parts = Vec::new();
    if field.identity.is_some() {
        parts.push("numbered by the database".to_owned());
    }
    if let Some(generated) = &field.generated {
        parts.push(format!("computed: {}", generated.expression.text));
    }
    parts.extend(
        field.defaults.database.as_deref().map(|value| format!("{} (database)", value_of(value))),
    );
    parts.extend(
        field
            .defaults
            .application
            .as_deref()
            .map(|value| format!("{} (application)", value_of(value))),
    );
    if field.implied.has(Part::Purpose) {
        parts.extend(field.purpose.map(|purpose| format!("~{}", words(purpose))));
    }
    parts.extend(
        field
            .on_update
            .application
            .as_ref()
            .map(|_| "renewed at each update (application)".to_owned()),
    );
    parts.join("; ")
}

/// What a column is recognised to be for.
fn words(purpose: Purpose) -> &'static str {
    match purpose {
        Purpose::CreationTime => "time of creation",
        Purpose::UpdateTime => "time of the last update",
        Purpose::DeletionTime => "marks as deleted",
        Purpose::Version => "version",
    }
}

fn value_of(value: &Default_) -> String {
    match value {
        Default_::Literal(value) => value.to_string(),
        Default_::Function(Function::Now | Function::StatementNow) => "now".into(),
        Default_::Function(Function::Today) => "today".into(),
        Default_::Function(Function::RandomUuid) => "random uuid".into(),
        Default_::Expression(expression) => expression.text.clone(),
    }
}

fn keys(schema: &Schema, entity: &Entity, field: &Field) -> String {
    let own = std::slice::from_ref(&field.column);
    let mut parts = Vec::new();
    if entity.key_columns().contains(&field.column) {
        parts.push(
            if entity.key_columns().len() > 1 { "part of the key" } else { "key" }.to_owned(),
        );
    }
    if let Some(unique) = entity.uniques.iter().find(|unique| unique.columns == own) {
        parts.push(format!("{}unique", tilde(&unique.origin)));
    }
    if let Some(index) = entity
        .indexes
        .iter()
        .find(|index| index.plain_columns() == own && index.parts[0].operator_class.is_none())
    {
        parts.push(format!("{}index", tilde(&index.origin)));
    }
    for key in entity.foreign_keys.iter().filter(|key| key.columns.contains(&field.column)) {
        let relation = entity.relation_over(&key.columns);
        let at = key.columns.iter().position(|column| *column == field.column).unwrap_or_default();
        // Who knows of a relation only by its foreign key sees what it would be called.
        let recognised = relation
            .filter(|relation| relation.implied.has(Part::Name))
            .and_then(|relation| relation.name.as_ref());
        let name = recognised.map_or(String::new(), |name| format!("~{name} "));
        let mut text = format!(
            "{name}-> {}.{}",
            key.references.address(),
            key.references.columns.get(at).map_or("?", String::as_str)
        );
        match (key.on_delete, relation.and_then(|relation| relation.on_delete)) {
            (Action::NoAction, Some(action)) => {
                text.push_str(&format!(", on delete {} (application)", action.word()))
            }
            (Action::NoAction, None) => {}
            (action, _) => text.push_str(&format!(", on delete {} (database)", action.word())),
        }
        if key.enforced == EnforcedBy::Application {
            text.push_str(", not enforced");
        }
        parts.push(text);
    }
    let values = field.choices.as_deref().and_then(|name| schema.enumeration(name));
    parts.extend(values.map(|enumeration| format!("one of {}", enumeration.members.len())));
    parts.join("; ")
}

/// Constraints and indexes over several columns, and many-to-many relations.
fn below(entity: &Entity) -> Vec<String> {
    let mut found = Vec::new();
    let named =
        |name: &Option<String>| name.as_ref().map_or(String::new(), |name| format!(" ({name})"));
    found.extend(
        entity
            .uniques
            .iter()
            .filter(|unique| unique.columns.len() > 1)
            .map(|unique| format!("unique: {}{}", unique.columns.join(", "), named(&unique.name))),
    );
    let special = |index: &&sprachbund_core::schema::Index| {
        index.plain_columns().len() != 1 || index.condition.is_some() || index.unique
    };
    for index in entity.indexes.iter().filter(special) {
        found.push(format!(
            "{}{}",
            sprachbund_core::schema::facts::index_element(index),
            named(&index.name)
        ));
    }
    found.extend(entity.checks.iter().map(|check| {
        format!("{}check: {}{}", tilde(&check.origin), check.expression.text, named(&check.name))
    }));
    let many = entity.relations.iter().filter(|relation| relation.through.is_some());
    found.extend(many.map(|relation| {
        format!(
            "{}{}: many-to-many to {} by {}",
            if relation.implied.has(Part::Relation) { "~" } else { "" },
            relation.name.as_deref().unwrap_or_default(),
            short(&relation.target),
            relation.through.as_deref().map_or("", short)
        )
    }));
    found
}
