//! What a class says of single attributes, and what their names mean to the framework.

use std::rc::Rc;

use super::super::run::{Arguments, Block, Value};
use super::{Classes, Macro};
use smol_str::SmolStr;

use crate::host::outline::ExprKind;
use crate::schema::{Default_, Function, OrderKey, Purpose, Type};
use crate::source::Span;

/// Calls that say nothing of columns or relations.
const SILENT: &[&str] = &[
    "abstract_class=",
    "accepts_nested_attributes_for",
    "alias_attribute",
    "alias_method",
    "attr_accessor",
    "attr_reader",
    "attr_writer",
    "belongs_to",
    "class_methods",
    "composed_of",
    "connects_to",
    "delegate",
    "delegate_missing_to",
    "enum",
    "establish_connection",
    "extend",
    "generates_token_for",
    "has_and_belongs_to_many",
    "has_many",
    "has_many_attached",
    "has_one",
    "has_one_attached",
    "has_rich_text",
    "has_secure_password",
    "has_secure_token",
    "implicit_order_column=",
    "inheritance_column=",
    "locking_column=",
    "normalizes",
    "primary_abstract_class",
    "primary_key=",
    "query_constraints",
    "record_timestamps=",
    "scope",
    "self_methods",
    "sequence_name=",
    "store_full_sti_class=",
    "table_name=",
    "table_name_prefix=",
    "validate",
    "validates",
    "validates!",
    "validates_associated",
    "validates_each",
    "validates_with",
    "delegated_type",
    "class_attribute",
    "cattr_accessor",
    "mattr_accessor",
    "attribute_method_suffix",
    "undef_method",
    "define_method",
];

/// Beginnings of calls that say when code is run.
const CALLBACKS: &[&str] =
    &["after_", "around_", "before_", "skip_callback", "set_callback", "validates_", "rescue_from"];

/// What the framework does with values, kept under its own word.
const KEPT: &[&str] = &["encrypts", "serialize", "store", "store_accessor", "attr_readonly"];

/// Times that the framework fills in, where a table has the column.
const TIMES: &[(&str, Purpose)] = &[
    ("created_at", Purpose::CreationTime),
    ("created_on", Purpose::CreationTime),
    ("updated_at", Purpose::UpdateTime),
    ("updated_on", Purpose::UpdateTime),
];

impl<'p> Classes<'_, 'p> {
    pub(super) fn attributes(&mut self, at: usize) {
        let said = Rc::clone(&self.known[at].said);
        for one in said.iter() {
            self.attribute(at, one);
        }
        if self.root(at) == at && !self.known[at].is_abstract {
            self.by_name(at);
        }
    }

    fn attribute(&mut self, at: usize, one: &Macro<'p>) {
        let mut given = one.arguments.clone();
        let span = one.span;
        match one.name.as_str() {
            "attribute" => {
                given.unfold();
                self.typed(at, &given, span);
            }
            "enum" => self.enumerations(at, given, span),
            "ignored_columns=" => {
                let columns = given.first().and_then(Value::as_texts).unwrap_or_default();
                self.drafts[at].removed.extend(columns);
            }
            "(where)" => self.rows(at, given, span),
            "(order)" => self.order(at, given),
            name if name.starts_with('(') => {}
            name if KEPT.contains(&name) => {
                given.unfold();
                self.kept(at, name, &given, span);
            }
            name if SILENT.contains(&name)
                || CALLBACKS.iter().any(|begin| name.starts_with(begin)) => {}
            name if name.ends_with('=') => {}
            name => self.unread(at, name, span),
        }
    }

    /// `attribute :name, :type, default: value`: of a column the default; without one nothing that
    /// is stored.
    fn typed(&mut self, at: usize, given: &Arguments<'p>, span: Span) {
        let Some(name) = given.first_text().filter(|name| self.has_column(at, name)) else {
            return;
        };
        let Some(default) = given.named("default") else { return };
        let default = match (default, default.json()) {
            (Value::Block(block), _) => self.of_block(block),
            (_, Some(value)) => Default_::Literal(value),
            _ => return,
        };
        self.drafts[at].field(&name, span).application_default = Some(Box::new(default));
    }

    /// What a block gives: a moment, an identifier, or code that only running it would tell.
    fn of_block(&self, block: &Block<'p>) -> Default_ {
        let Block::Code { body, .. } = block else { return Default_::host("ruby", "a method") };
        let body = match &body.kind {
            ExprKind::Operation { operator, operands } if operator == "do" => {
                match operands.as_slice() {
                    [only] => only,
                    _ => body,
                }
            }
            _ => body,
        };
        let called = body.call().map(|call| call.callee_name());
        match GIVEN.iter().find(|(code, _)| Some(*code) == called) {
            Some((_, function)) => Default_::Function(*function),
            None => Default_::host("ruby", self.program.project.sources.text(body.span)),
        }
    }

    /// The order in which the rows come.
    fn order(&mut self, at: usize, mut given: Arguments<'p>) {
        given.unfold();
        let key = |field: SmolStr, descending| OrderKey { field: field.into(), descending };
        let plain = given.list.iter().filter_map(Value::as_text).map(|field| key(field, false));
        let said = given
            .named
            .iter()
            .map(|(field, way)| key(field.clone(), way.as_text().is_some_and(|way| way == "desc")));
        self.drafts[at].order = plain.chain(said).collect();
    }

    fn kept(&mut self, at: usize, word: &str, given: &Arguments<'p>, span: Span) {
        let names = given.list.iter().filter_map(Value::as_text).collect::<Vec<_>>();
        let names = match word {
            "store" | "store_accessor" | "serialize" => names.into_iter().take(1).collect(),
            _ => names,
        };
        for name in names {
            if !self.has_column(at, &name) {
                continue;
            }
            let named = given.named.iter();
            let options = named.map(|(key, value)| (Value::Text(key.clone()), value.clone()));
            let options = Value::Map(options.collect()).json();
            let field = self.drafts[at].field(&name, span);
            field.extras.insert(word.to_owned(), options.unwrap_or(true.into()));
        }
    }

    /// A scope that leaves out the rows that were given up: `where(deleted_at: nil)`.
    fn rows(&mut self, at: usize, mut given: Arguments<'p>, span: Span) {
        given.unfold();
        for (column, value) in &given.named {
            let table = self.made(at).and_then(|made| made.field(column));
            let is_time = table.is_some_and(|field| is_time(&field.r#type));
            if matches!(value, Value::Nil) && is_time {
                self.drafts[at].field(column, span).purpose = Some(Purpose::DeletionTime);
            }
        }
    }

    /// Columns whose names mean something to the framework.
    fn by_name(&mut self, at: usize) {
        let span = self.known[at].span;
        let stamped = self.last_said(at, "record_timestamps=");
        let stamped = stamped.and_then(|said| said.arguments.first()).and_then(Value::holds);
        for (name, purpose) in TIMES.iter().filter(|_| stamped != Some(false)) {
            let column = self.second_name(at, name);
            let column = column.as_str();
            let field = self.made(at).and_then(|made| made.field(column));
            if field.is_some_and(|field| is_time(&field.r#type)) {
                self.drafts[at].field(column, span).purpose = Some(*purpose);
            }
        }
        let locking = self.last_said(at, "locking_column=");
        let locking = match locking {
            Some(said) => match said.arguments.first_text() {
                Some(column) => column,
                None => return,
            },
            None => self.second_name(at, "lock_version"),
        };
        let counts = self.made(at).and_then(|made| made.field(&locking));
        if counts.is_some_and(|field| field.r#type.is_whole_number()) {
            self.drafts[at].field(&locking, span).purpose = Some(Purpose::Version);
        }
    }
}

impl Classes<'_, '_> {
    /// The column that a name stands for: its own, or the one that it is a second name of.
    fn second_name(&self, at: usize, name: &str) -> SmolStr {
        let aliases = self.lineage(at).flat_map(|class| self.known[class].said.iter());
        let mut aliases = aliases.filter(|said| said.name == "alias_attribute");
        aliases
            .find_map(|said| {
                let (new, old) = (said.arguments.list.first()?, said.arguments.list.get(1)?);
                (new.as_text()? == name).then(|| old.as_text()).flatten()
            })
            .unwrap_or_else(|| name.into())
    }
}

/// What code gives a value that every framework knows.
const GIVEN: &[(&str, Function)] = &[
    ("Time.current", Function::Now),
    ("Time.now", Function::Now),
    ("Time.zone.now", Function::Now),
    ("Date.current", Function::Today),
    ("Date.today", Function::Today),
    ("Time.zone.today", Function::Today),
    ("SecureRandom.uuid", Function::RandomUuid),
];

fn is_time(ty: &Type) -> bool {
    matches!(ty, Type::Timestamp { .. } | Type::Date)
}
