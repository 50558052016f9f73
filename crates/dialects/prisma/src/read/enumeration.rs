//! Enumerations: members are called as in the code, their values are what is stored.

use super::{Reader, mapped, parts};
use crate::SILENT_NAMESPACE;
use crate::diagnostic::Diagnostic;
use crate::host::outline::{Class, Member};
use crate::schema::{EnumMember, EnumType, Origin};

/// The enumeration of a block; where it stands is added by who knows the file.
pub(super) fn enumeration(class: &Class, module: &str) -> EnumType {
    EnumType {
        name: class.name.to_string(),
        stored_name: mapped(&class.decorators).map(str::to_owned),
        members: class.members.iter().map(member).collect(),
        module: module.to_owned(),
        inline: false,
        origin: Origin::default(),
    }
}

fn member(member: &Member) -> EnumMember {
    let value = mapped(&member.decorators).unwrap_or(&member.name);
    EnumMember { name: member.name.to_string(), value: value.into(), label: None, in_code: None }
}

impl Reader<'_> {
    /// A word on every attribute of an enumeration that says more than a name in the database.
    pub(super) fn unread_of_enumeration(&self, class: &Class, found: &mut Vec<Diagnostic>) {
        let own = class.decorators.iter().map(|attribute| (class.name.clone(), attribute));
        let of_members = class.members.iter().flat_map(|member| {
            member.decorators.iter().map(|attribute| (member.name.clone(), attribute))
        });
        for (owner, attribute) in own.chain(of_members) {
            let (name, call) = parts(attribute);
            let mut arguments = self.arguments(call, &["name"]);
            let namespace = (name == "schema").then(|| arguments.take_text("name")).flatten();
            if name == "map" || namespace.as_deref() == Some(SILENT_NAMESPACE) {
                arguments.take("name");
                found.extend(arguments.unread(&format!("`{name}` of `{owner}`"), attribute.span));
            } else {
                let text = self.project.sources.text(attribute.span);
                let message = format!("`{text}` of `{owner}` was not read: it is left out");
                found.push(super::unread(message, attribute.span));
            }
        }
    }
}
