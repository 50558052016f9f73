//! What the findings of readers are about. A reader knows a place, not an entity: the entity is the
//! one that is declared in the same statement, and the element the one that is declared on the same
//! line.

use crate::diagnostic::{Diagnostic, Subject};
use crate::schema::facts::Element;
use crate::schema::{Entity, Schema};
use crate::source::{FileId, Sources, Span};

/// Gives a subject to each diagnostic that has none and stands in a statement which declares an
/// entity.
///
/// `statements` are the statements at the top of each file, in their order.
pub(crate) fn assign(
    diagnostics: &mut [Diagnostic],
    schema: &Schema,
    statements: &[Vec<Span>],
    sources: &Sources,
) {
    if diagnostics
        .iter()
        .all(|diagnostic| diagnostic.subject.is_some() || diagnostic.primary.is_none())
    {
        return;
    }
    let declared = Declared::of(schema);
    for diagnostic in diagnostics.iter_mut().filter(|diagnostic| diagnostic.subject.is_none()) {
        let Some(span) = diagnostic.primary.as_ref().map(|label| label.span) else { continue };
        let Some(statement) = statement_at(statements, span) else { continue };
        let Some(entity) = declared.entity(statement, span) else { continue };
        let element = declared
            .element(entity, span, sources)
            .map_or(String::new(), |element| element.to_string());
        diagnostic.subject = Some(Subject { entity: entity.id.clone(), element });
    }
}

fn statement_at(statements: &[Vec<Span>], span: Span) -> Option<Span> {
    let of_file = statements.get(span.file.0 as usize)?;
    let after = of_file.partition_point(|statement| statement.start <= span.start);
    of_file.get(after.checked_sub(1)?).copied().filter(|statement| span.start < statement.end)
}

type Place = (FileId, u32);

fn place(span: Span) -> Place {
    (span.file, span.start)
}

/// Entities and their elements in the order of the text.
struct Declared<'s> {
    entities: Vec<(Place, &'s Entity)>,
    elements: Vec<(Place, Span, &'s Entity, Element)>,
}

impl<'s> Declared<'s> {
    fn of(schema: &'s Schema) -> Self {
        let mut entities: Vec<(Place, &Entity)> = schema
            .entities
            .iter()
            .filter_map(|entity| Some((place(entity.origin.span()?), entity)))
            .collect();
        entities.sort_by_key(|(place, _)| *place);
        let of_entity = |entity: &'s Entity| {
            let fields = entity
                .fields
                .iter()
                .filter_map(|field| Some((field.origin.span()?, Element::of_field(field))));
            let relations = entity.relations.iter().filter_map(|relation| {
                Some((relation.origin.span()?, Element::Relation(relation.columns.clone())))
            });
            fields
                .chain(relations)
                .map(|(span, element)| (place(span), span, entity, element))
                .collect::<Vec<_>>()
        };
        let mut elements: Vec<_> = schema.entities.iter().flat_map(of_entity).collect();
        elements.sort_by_key(|(place, ..)| *place);
        Declared { entities, elements }
    }

    /// The last entity of a statement that begins before a place, or the first one: what stands
    /// before its name is about it, too.
    fn entity(&self, statement: Span, span: Span) -> Option<&'s Entity> {
        let first = self.entities.partition_point(|(known, _)| *known < place(statement));
        let inside =
            |(known, _): &&(Place, &Entity)| known.0 == statement.file && known.1 < statement.end;
        let mut own = self.entities[first..].iter().take_while(inside);
        let before = own.clone().take_while(|(known, _)| *known <= place(span)).last();
        before.or_else(|| own.next()).map(|(_, entity)| *entity)
    }

    /// The element of an entity on whose line a place is.
    fn element(&self, entity: &Entity, span: Span, sources: &Sources) -> Option<&Element> {
        let line = |at: u32| sources.file(span.file).position(at).0;
        let after = self.elements.partition_point(|(known, ..)| *known <= place(span));
        let (_, own, of, element) = self.elements.get(after.checked_sub(1)?)?;
        (own.file == span.file && of.id == entity.id && line(own.start) == line(span.start))
            .then_some(element)
    }
}
