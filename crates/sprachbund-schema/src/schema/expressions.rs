//! Every expression of a schema, wherever it stands.

use super::{Default_, Entity, Expression, Schema, Voices};

impl Schema {
    /// Visits every expression, with the path of its place in the schema file.
    pub fn each_expression(&mut self, visit: &mut dyn FnMut(String, &mut Expression)) {
        for (at, entity) in self.entities.iter_mut().enumerate() {
            of_entity(&format!("entities[{at}]"), entity, visit);
        }
    }
}

fn of_entity(path: &str, entity: &mut Entity, visit: &mut dyn FnMut(String, &mut Expression)) {
    let Entity { fields, checks, exclusions, indexes, .. } = entity;
    for (at, field) in fields.iter_mut().enumerate() {
        let path = format!("{path}.fields[{at}]");
        of_voices(&format!("{path}.defaults"), &mut field.defaults, visit);
        of_voices(&format!("{path}.on_update"), &mut field.on_update, visit);
        if let Some(generated) = &mut field.generated {
            visit(format!("{path}.generated.expression"), &mut generated.expression);
        }
    }
    for (list, name) in [(checks, "checks"), (exclusions, "exclusions")] {
        for (at, check) in list.iter_mut().enumerate() {
            visit(format!("{path}.{name}[{at}].expression"), &mut check.expression);
        }
    }
    for (at, index) in indexes.iter_mut().enumerate() {
        let path = format!("{path}.indexes[{at}]");
        if let Some(condition) = &mut index.condition {
            visit(format!("{path}.condition"), condition);
        }
        for (part_at, part) in index.parts.iter_mut().enumerate() {
            if let Some(expression) = &mut part.expression {
                visit(format!("{path}.parts[{part_at}].expression"), expression);
            }
        }
    }
}

fn of_voices(path: &str, voices: &mut Voices, visit: &mut dyn FnMut(String, &mut Expression)) {
    for (side, name) in
        [(&mut voices.database, "database"), (&mut voices.application, "application")]
    {
        if let Some(Default_::Expression(expression)) = side.as_deref_mut() {
            visit(format!("{path}.{name}"), expression);
        }
    }
}
