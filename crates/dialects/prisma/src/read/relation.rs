//! One side of a relation: the one that says its columns, the one that leads back, or either of a
//! many-to-many.

use super::Reader;
use super::known::RelationSide;
use crate::codes;
use crate::declaration::{
    Attribute, InverseDeclaration, InverseKind, JoinColumn, RelationDeclaration,
};
use crate::diagnostic::{Diagnostic, Severity};
use crate::host::outline::{Class, Expr, Member};
use crate::schema::{Action, Extras, RelationKind};
use crate::source::Span;

/// The words for what happens to referring records.
pub(crate) const ACTIONS: &[(&str, Action)] = &[
    ("Cascade", Action::Cascade),
    ("NoAction", Action::NoAction),
    ("Restrict", Action::Restrict),
    ("SetDefault", Action::SetDefault),
    ("SetNull", Action::SetNull),
];

impl Reader<'_> {
    /// The relation that a field is a side of.
    pub(super) fn relation(
        &self,
        class: &Class,
        member: &Member,
        target: &str,
        found: &mut Vec<Diagnostic>,
    ) -> Option<Attribute> {
        let side = self.known.side(&class.name, &member.name)?;
        let other = self.known.other_side(&class.name, side);
        if !side.owns {
            self.unread_of_side(member, found);
        }
        let mut extras = Extras::new();
        if let Some(text) = &member.documentation {
            extras.insert("documentation".into(), text.as_str().into());
        }
        if let Some(missing) = other.is_none().then(|| self.one_sided(class, member, side, target))
        {
            let owns = side.owns;
            found.push(missing);
            if !owns {
                return None;
            }
        }
        if side.owns {
            return Some(self.owning(class, member, side, other, extras, found));
        }
        let other = other?;
        let inverse = |kind: InverseKind, extras: Extras| {
            Attribute::Inverse(Box::new(InverseDeclaration {
                name: member.name.to_string(),
                kind,
                target: self.known.id(target),
                owner: other.field.to_string(),
                columns: Vec::new(),
                extras,
                span: Some(member.span),
            }))
        };
        match (side.list, other.list, other.owns) {
            (true, true, _) => {
                // The side that comes first by name is the one to which the join table refers
                // first.
                let first =
                    (class.name.as_str(), member.name.as_str()) < (target, other.field.as_str());
                if !first {
                    return Some(inverse(InverseKind::ManyToMany, extras));
                }
                let mut relation = RelationDeclaration::new(
                    Some(member.name.to_string()),
                    RelationKind::ManyToMany,
                    self.known.id(target),
                );
                let silent = format!("_{}To{target}", class.name);
                relation.join_table.name =
                    self.known.table_of(side).filter(|table| *table != silent);
                relation.carrier.optional_in_code = Some(false);
                (relation.extras, relation.span) = (extras, Some(member.span));
                Some(Attribute::Relation(Box::new(relation)))
            }
            (list, _, true) => Some(inverse(
                if list { InverseKind::OneToMany } else { InverseKind::OneToOne },
                extras,
            )),
            (_, _, false) => {
                found.push(without_reference(class, member, (target, &other.field)));
                None
            }
        }
    }

    /// A word on what the side that leads back says beyond the name of the relation.
    fn unread_of_side(&self, member: &Member, found: &mut Vec<Diagnostic>) {
        for attribute in &member.decorators {
            let (name, call) = super::parts(attribute);
            let mut arguments = self.arguments(call, &["name"]);
            match name {
                "relation" => drop(arguments.take("name")),
                "ignore" => {}
                _ => {
                    found.push(self.foreign(attribute));
                    continue;
                }
            }
            found.extend(arguments.unread(&format!("`@{name}`"), attribute.span));
        }
    }

    fn foreign(&self, attribute: &Expr) -> Diagnostic {
        let text = self.project.sources.text(attribute.span);
        super::unread(
            format!("`{text}` says nothing of a relation: it is left out"),
            attribute.span,
        )
    }

    fn one_sided(
        &self,
        class: &Class,
        member: &Member,
        side: &RelationSide,
        target: &str,
    ) -> Diagnostic {
        let message = format!(
            "`{}.{}` leads to `{target}`, where no field leads back",
            class.name, member.name
        );
        let severity = if side.owns { Severity::Warning } else { Severity::Error };
        Diagnostic::of(&codes::ONE_SIDED_RELATION, message)
            .graded(severity)
            .at(Some(member.span), "one side of two")
            .because("Prisma refuses a relation that only one side declares")
            .with_help(format!(
                "give `{target}` a field of type `{}`, with the same name of the relation if \
                 there is one",
                class.name
            ))
    }

    /// The side that says which columns carry the relation.
    fn owning(
        &self,
        class: &Class,
        member: &Member,
        side: &RelationSide,
        other: Option<&RelationSide>,
        extras: Extras,
        found: &mut Vec<Diagnostic>,
    ) -> Attribute {
        let kind = match other {
            Some(other) if !other.list => RelationKind::OneToOne,
            _ => RelationKind::ManyToOne,
        };
        let mut relation = RelationDeclaration::new(
            Some(member.name.to_string()),
            kind,
            self.known.id(&side.target),
        );
        relation.carrier.optional_in_code = Some(member.optional);
        (relation.extras, relation.span) = (extras, Some(member.span));
        for attribute in &member.decorators {
            let (name, call) = super::parts(attribute);
            if name == "ignore" {
                relation.extras.insert("ignored".into(), true.into());
                continue;
            }
            if name != "relation" {
                found.push(self.foreign(attribute));
                continue;
            }
            let mut arguments = self.arguments(call, &["name"]);
            arguments.take("name");
            let fields = names(arguments.take_raw("fields"));
            let references = names(arguments.take_raw("references"));
            let constraint = arguments.take_text("map");
            let declared = |field: &&String| class.member(field).is_some();
            for field in fields.iter().filter(|field| !declared(field)) {
                let message = format!(
                    "`{}.{}` is carried by `{field}`, which is no field of `{}`",
                    class.name, member.name, class.name
                );
                found.push(
                    Diagnostic::of(&codes::UNKNOWN_ATTRIBUTE, message)
                        .at(Some(attribute.span), "names it here"),
                );
            }
            relation.join_columns = fields
                .iter()
                .enumerate()
                .map(|(at, field)| JoinColumn {
                    name: Some(self.known.column(&class.name, field)),
                    references: references.get(at).cloned(),
                    constraint_name: constraint.clone().filter(|_| at == 0),
                })
                .collect();
            for (word, action) in
                [("onDelete", &mut relation.on_delete), ("onUpdate", &mut relation.on_update)]
            {
                let written = arguments.take_raw(word);
                *action = written
                    .as_ref()
                    .and_then(Expr::name)
                    .and_then(|name| ACTIONS.iter().find(|(known, _)| *known == name))
                    .map(|(_, action)| *action);
                if let (None, Some(written)) = (&action, written) {
                    found.push(unknown_action(word, (class, member), written.span));
                }
            }
            found.extend(arguments.unread("`@relation`", attribute.span));
        }
        Attribute::Relation(Box::new(relation))
    }
}

/// A word that is none of the actions.
fn unknown_action(word: &str, (class, member): (&Class, &Member), span: Span) -> Diagnostic {
    let message =
        format!("`{word}` of `{}.{}` is no action that is known", class.name, member.name);
    let words: Vec<&str> = ACTIONS.iter().map(|(word, _)| *word).collect();
    Diagnostic::of(&codes::UNKNOWN_ACTION, message)
        .at(Some(span), "not known")
        .with_help(format!("one of {}", words.join(", ")))
}

/// No side of a relation says which columns carry it.
fn without_reference(class: &Class, member: &Member, other: (&str, &str)) -> Diagnostic {
    let message = format!(
        "neither `{}.{}` nor `{}.{}` says which columns carry the relation",
        class.name, member.name, other.0, other.1
    );
    Diagnostic::of(&codes::RELATION_WITHOUT_REFERENCE, message)
        .at(Some(member.span), "no `fields` on either side")
        .because("the relation is left out")
        .with_help(
            "say `@relation(fields: [...], references: [...])` on the side whose table has the \
             column",
        )
}

/// The names in a list of fields; one may stand without brackets.
fn names(list: Option<Expr>) -> Vec<String> {
    let items = list
        .as_ref()
        .map_or(&[] as &[Expr], |list| list.list().unwrap_or(std::slice::from_ref(list)));
    items.iter().filter_map(Expr::name).map(str::to_owned).collect()
}
