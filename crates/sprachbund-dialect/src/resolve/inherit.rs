//! Attributes of base classes, given to the classes that extend them.

use super::Resolver;
use crate::declaration::{Attribute, Form, Model};
use crate::dialect::conventions::ExtendedTable;

/// A class with everything that it has by inheritance.
pub(crate) struct Flat {
    /// Attributes of the bases first, then the class's own.
    attributes: Vec<Inherited>,
    /// Place of the class with a table of its own that it extends, where that means a joined table.
    parent: Option<usize>,
    /// It extends itself by way of others.
    pub(crate) circular: bool,
    /// It has more bases in a row than are followed.
    pub(crate) too_deep: bool,
}

/// An attribute of a class or of one of its bases.
enum Inherited {
    At {
        model: usize,
        attribute: usize,
    },
    /// It means something else in the class than in its base.
    Changed(Box<Attribute>),
}

/// Bases in a row that are followed.
const DEEPEST: usize = 250;

impl Resolver<'_> {
    /// The class at `at` with everything inherited.
    pub(crate) fn flat(&self, at: usize) -> &Flat {
        self.flats[at].get_or_init(|| {
            let mut flat =
                Flat { attributes: Vec::new(), parent: None, circular: false, too_deep: false };
            let mut path = Vec::new();
            self.collect(at, &mut flat, &mut path);
            let own = &self.models[at].id;
            flat.attributes.iter_mut().for_each(|attribute| self.to_itself(attribute, own));
            flat
        })
    }

    /// The attributes of the class at `at`, inherited ones first.
    pub(crate) fn attributes(&self, at: usize) -> impl Iterator<Item = &Attribute> {
        self.flat(at).attributes.iter().map(|inherited| self.attribute(inherited))
    }

    /// The class whose table the table of the class at `at` joins.
    pub(crate) fn parent(&self, at: usize) -> Option<&Model> {
        self.flat(at).parent.map(|parent| &self.models[parent])
    }

    fn attribute<'r>(&'r self, inherited: &'r Inherited) -> &'r Attribute {
        match inherited {
            Inherited::At { model, attribute } => &self.models[*model].attributes[*attribute],
            Inherited::Changed(attribute) => attribute,
        }
    }

    /// A relation of an abstract class to itself is one of each class that extends it to itself.
    fn to_itself(&self, inherited: &mut Inherited, own: &str) {
        let Attribute::Relation(relation) = self.attribute(inherited) else { return };
        let target =
            self.model(&relation.target).filter(|(_, target)| target.form == Form::Abstract);
        if target.is_some() {
            let mut relation = relation.clone();
            relation.target = own.to_owned();
            *inherited = Inherited::Changed(Box::new(Attribute::Relation(relation)));
        }
    }

    fn collect(&self, at: usize, flat: &mut Flat, path: &mut Vec<usize>) {
        flat.circular |= path.contains(&at);
        flat.too_deep |= path.len() > DEEPEST;
        if flat.circular || flat.too_deep {
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
                    flat.parent = Some(base_at);
                }
            } else {
                self.collect(base_at, flat, path);
            }
        }
        for (attribute_at, attribute) in model.attributes.iter().enumerate() {
            if let Some(name) = attribute.name() {
                flat.attributes.retain(|known| self.attribute(known).name() != Some(name));
            }
            if !matches!(attribute, Attribute::Removed(_)) {
                flat.attributes.push(Inherited::At { model: at, attribute: attribute_at });
            }
        }
        path.pop();
    }
}
