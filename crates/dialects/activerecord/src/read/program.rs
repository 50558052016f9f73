//! The classes, modules, methods and constants of all files, by their full names.

use std::collections::HashMap;

use smol_str::{SmolStr, format_smolstr};

use crate::host::outline::{Class, Expr, Method, Outline};
use crate::host::project::Project;
use crate::source::FileId;

/// What all files define.
pub(crate) struct Program<'p> {
    pub(crate) project: &'p Project,
    /// A class may be opened more than once.
    classes: HashMap<&'p str, Vec<(FileId, &'p Class)>>,
    constants: HashMap<SmolStr, (FileId, &'p Expr)>,
}

/// How far a chain of bases and modules is followed.
const DEEPEST: usize = 16;

impl<'p> Program<'p> {
    pub(crate) fn of(project: &'p Project) -> Self {
        let mut program = Program { project, classes: HashMap::new(), constants: HashMap::new() };
        for (file, outline) in project.files() {
            program.add(file, outline);
        }
        program
    }

    fn add(&mut self, file: FileId, outline: &'p Outline) {
        for class in &outline.classes {
            self.classes.entry(&class.name).or_default().push((file, class));
            for member in &class.members {
                if let Some(value) = &member.value {
                    let name = format_smolstr!("{}::{}", class.name, member.name);
                    self.constants.insert(name, (file, value));
                }
            }
        }
        for assignment in &outline.assignments {
            self.constants.insert(assignment.name.clone(), (file, &assignment.value));
        }
    }

    /// Every class with its file, in the order of the files.
    pub(crate) fn classes(&self) -> impl Iterator<Item = (FileId, &'p Class)> + use<'_, 'p> {
        let of_file = |(file, outline): (FileId, &'p Outline)| {
            outline.classes.iter().map(move |class| (file, class))
        };
        self.project.files().flat_map(of_file)
    }

    /// The places where a class is opened.
    pub(crate) fn opened(&self, name: &str) -> &[(FileId, &'p Class)] {
        self.classes.get(name).map_or(&[], Vec::as_slice)
    }

    /// The full name of a class as code inside `scope` means it: the innermost one that there is.
    pub(crate) fn class(&self, scope: &str, name: &str) -> Option<SmolStr> {
        self.innermost(scope, name, |full| self.classes.contains_key(full))
    }

    /// A constant as code inside `scope` means it, with its full name.
    pub(crate) fn constant(&self, scope: &str, name: &str) -> Option<(SmolStr, FileId, &'p Expr)> {
        let found = self.innermost(scope, name, |full| self.constants.contains_key(full));
        let inherited = || {
            self.lineage(scope).into_iter().find_map(|class| {
                let full = format_smolstr!("{class}::{name}");
                self.constants.contains_key(&full).then_some(full)
            })
        };
        let full = found.or_else(inherited)?;
        let (file, value) = self.constants[&full];
        Some((full, file, value))
    }

    fn innermost(
        &self,
        scope: &str,
        name: &str,
        is_there: impl Fn(&str) -> bool,
    ) -> Option<SmolStr> {
        if let Some(absolute) = name.strip_prefix("::") {
            return is_there(absolute).then(|| absolute.into());
        }
        let mut around = scope;
        loop {
            let full = match around {
                "" => SmolStr::new(name),
                around => format_smolstr!("{around}::{name}"),
            };
            if is_there(&full) {
                return Some(full);
            }
            if around.is_empty() {
                return None;
            }
            around = around.rsplit_once("::").map_or("", |(outer, _)| outer);
        }
    }

    /// A method of a class, its bases and the modules that they include, with the class that has
    /// it.
    pub(crate) fn method(&self, class: &str, name: &str) -> Option<(SmolStr, FileId, &'p Method)> {
        self.lineage(class).into_iter().find_map(|known| {
            let mut opened = self.opened(&known).iter().rev();
            let (file, method) = opened.find_map(|(file, class)| {
                let method = class.methods.iter().rev().find(|method| method.name == name)?;
                Some((*file, method))
            })?;
            Some((known, file, method))
        })
    }

    /// A class, the modules that it includes, its base, and so on.
    pub(crate) fn lineage(&self, class: &str) -> Vec<SmolStr> {
        let mut known: Vec<SmolStr> = vec![class.into()];
        let mut at = 0;
        while at < known.len().min(DEEPEST) {
            let name = known[at].clone();
            for (_, class) in self.opened(&name) {
                let included = class.statements.iter().filter_map(included).flatten();
                let bases = class.bases.iter().filter_map(Expr::name);
                let names: Vec<&str> = included.chain(bases).collect();
                let found = names.into_iter().filter_map(|base| self.class(&name, base));
                for base in found {
                    if !known.contains(&base) {
                        known.push(base);
                    }
                }
            }
            at += 1;
        }
        known
    }

    /// Whether a class comes, by its bases, from one of which `is` holds; names as they are
    /// written.
    pub(crate) fn comes_from(&self, class: &str, is: impl Fn(&str) -> bool) -> bool {
        self.lineage(class).iter().any(|known| {
            let opened = self.opened(known).iter();
            opened.flat_map(|(_, class)| &class.bases).any(|base| base_name(base).is_some_and(&is))
        })
    }
}

/// What `include`, `extend` or `prepend` names.
fn included(statement: &Expr) -> Option<impl Iterator<Item = &str>> {
    let call = statement.call()?;
    let takes_in = matches!(call.callee_name(), "include" | "extend" | "prepend");
    takes_in.then(|| call.arguments.iter().filter_map(Expr::name))
}

/// The name of a base, without what stands in brackets behind it.
pub(crate) fn base_name(base: &Expr) -> Option<&str> {
    use crate::host::outline::ExprKind;
    let name = match &base.kind {
        ExprKind::Operation { operator, operands } if operator == "[]" => operands.first()?.name(),
        _ => base.name(),
    };
    name.map(|name| name.trim_start_matches("::"))
}
