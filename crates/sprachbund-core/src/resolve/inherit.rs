//! Attributes of base classes, copied into the classes that extend them.

use std::borrow::Cow;

use super::Resolver;
use crate::declaration::{Attribute, Form, Model};
use crate::dialect::conventions::ExtendedTable;

/// A class with everything that it has by inheritance.
pub(crate) struct Flat<'d> {
    /// Attributes of the bases first, then the class's own.
    pub(crate) attributes: Vec<Cow<'d, Attribute>>,
    /// The class with a table of its own that it extends, where that means a joined table.
    pub(crate) parent: Option<&'d Model>,
    /// It extends itself by way of others.
    pub(crate) circular: bool,
}

const DEEPEST: usize = 64;

impl<'d> Resolver<'d> {
    /// The class at `at` with everything inherited.
    pub(crate) fn flat(&self, at: usize) -> &Flat<'d> {
        self.flats[at].get_or_init(|| {
            let mut flat = Flat { attributes: Vec::new(), parent: None, circular: false };
            let mut path = Vec::new();
            self.collect(at, &mut flat, &mut path);
            let own = &self.models[at].id;
            flat.attributes.iter_mut().for_each(|attribute| self.to_itself(attribute, own));
            flat
        })
    }

    /// A relation of an abstract class to itself is one of each class that extends it to itself.
    fn to_itself(&self, attribute: &mut Cow<'d, Attribute>, own: &str) {
        let Attribute::Relation(relation) = &**attribute else { return };
        let target = self.model(&relation.target).filter(|(_, target)| target.form == Form::Abstract);
        if target.is_some() {
            let mut relation = relation.clone();
            relation.target = own.to_owned();
            *attribute = Cow::Owned(Attribute::Relation(relation));
        }
    }

    fn collect(&self, at: usize, flat: &mut Flat<'d>, path: &mut Vec<usize>) {
        if path.contains(&at) || path.len() > DEEPEST {
            flat.circular = true;
            return;
        }
        path.push(at);
        let model = &self.models[at];
        for base in &model.extends {
            let Some((base_at, base)) = self.model(base) else { continue };
            let has_table = base.form != Form::Abstract;
            if has_table && self.conventions.extended_table == ExtendedTable::Joined {
                if path.contains(&base_at) {
                    flat.circular = true;
                } else if flat.parent.is_none() {
                    flat.parent = Some(base);
                }
            } else {
                self.collect(base_at, flat, path);
            }
        }
        for attribute in &model.attributes {
            let name = attribute.name();
            flat.attributes.retain(|known| name.is_none() || known.name() != name);
            if !matches!(attribute, Attribute::Removed(_)) {
                flat.attributes.push(Cow::Borrowed(attribute));
            }
        }
        path.pop();
    }
}
