//! What printers of TypeScript share: which file a class stands in, how files name each other, and
//! enumerations.

use std::collections::{HashMap, HashSet};

use crate::declaration::Declarations;
use crate::dialect::PrintedFile;
use crate::dialect::naming::Case;
use crate::dialect::source_text::SourceText;
use crate::quoting::typescript::{literal, property_key};
use crate::schema::EnumType;

/// The files of classes and enumerations, by module and name: two whose names differ only in the
/// case of letters, or in what stands between words, get two files.
pub struct Files {
    /// Ending of the file of a class.
    ending: String,
    classes: HashMap<(String, String), String>,
    enumerations: HashMap<(String, String), String>,
}

impl Files {
    /// The files of all that is declared; `ending` is that of a class's file.
    pub fn of(declarations: &Declarations, ending: &str) -> Self {
        let mut taken: HashSet<String> = HashSet::new();
        let mut path = |module: &str, name: &str, ending: &str| {
            let stem = format!("{module}/{}", Case::Kebab.apply(name));
            let numbered = (2u32..).map(|count| format!("{stem}-{count}"));
            let free = std::iter::once(stem.clone()).chain(numbered).map(|stem| stem + ending);
            free.into_iter().find(|path| taken.insert(path.to_lowercase())).unwrap_or_default()
        };
        let mut files = Files {
            ending: ending.to_owned(),
            classes: HashMap::new(),
            enumerations: HashMap::new(),
        };
        for enumeration in declarations.enums.iter().filter(|enumeration| !enumeration.inline) {
            let path = path(&enumeration.module, &enumeration.name, ".enum.ts");
            files.enumerations.insert((enumeration.module.clone(), enumeration.name.clone()), path);
        }
        for model in &declarations.models {
            let path = path(&model.module, &model.name, ending);
            files.classes.insert((model.module.clone(), model.name.clone()), path);
        }
        files
    }

    /// The file of a class; of one that is not declared what it would be.
    pub fn class(&self, module: &str, name: &str) -> String {
        let known = self.classes.get(&(module.to_owned(), name.to_owned()));
        known
            .cloned()
            .unwrap_or_else(|| format!("{module}/{}{}", Case::Kebab.apply(name), self.ending))
    }

    /// The file of an enumeration.
    pub fn enumeration(&self, enumeration: &EnumType) -> String {
        let known = self.enumerations.get(&(enumeration.module.clone(), enumeration.name.clone()));
        known.cloned().unwrap_or_else(|| {
            format!("{}/{}.enum.ts", enumeration.module, Case::Kebab.apply(&enumeration.name))
        })
    }
}

/// An `enum` in a file of its own.
pub fn enumeration(enumeration: &EnumType, files: &Files) -> PrintedFile {
    let mut body = SourceText::new(2);
    body.line(0, &format!("export enum {} {{", enumeration.name));
    for member in &enumeration.members {
        body.line(2, &format!("{} = {},", property_key(&member.name), literal(&member.value)));
    }
    body.line(0, "}");
    PrintedFile { path: files.enumeration(enumeration), text: body.finish() }
}
