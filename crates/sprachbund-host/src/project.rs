//! All files of one run, lowered, with their imports followed from file to file.

use std::collections::{HashMap, HashSet};
use std::sync::{Arc, Mutex, PoisonError};

use memchr::memmem;
use rayon::prelude::*;
use smol_str::SmolStr;

use crate::Language;
use crate::effort::Budget;
use crate::language::Imports;
use crate::outline::{Class, Expr, ExprKind, Function, Import, Outline};
use crate::schema::Database;
use crate::source::{FileId, FileProvider, SourceFile, Sources};

/// Files that are read before the next ones are begun.
const FILES_AT_ONCE: usize = 128;

/// What a dialect asks to be loaded.
pub struct Wanted<'a> {
    pub language: &'a Language,
    /// Texts one of which every file worth parsing holds.
    pub marks: &'a [&'a str],
    /// Files of the framework itself that stand in for its installed package: path and text.
    pub stand_ins: &'a [(&'static str, &'static str)],
    /// Modules of the framework that are known by name and not followed.
    pub is_framework: fn(&str) -> bool,
}

/// The files of one run. The first [`Project::inputs`] were asked for; the others were imported by
/// them.
#[derive(Debug, Default)]
pub struct Project {
    pub sources: Sources,
    pub outlines: Vec<Outline>,
    pub inputs: usize,
    /// The server that SQL texts in the project are meant for.
    pub database: Database,
    /// Variables of the environment that the project is run in.
    pub environment: Vec<(String, serde_json::Value)>,
    /// Calls whose value the dialect knows, by the last part of their names.
    pub known_calls: &'static [(&'static str, &'static str)],
    /// What working out values may cost.
    pub budget: Budget,
    paths: HashMap<String, FileId>,
    names: Vec<HashMap<SmolStr, Item>>,
    targets: Vec<Vec<ImportTarget>>,
}

#[derive(Clone, Copy, Debug)]
enum Item {
    Class(usize),
    Assignment(usize),
    /// An entry of an object that is exported as a whole.
    Entry(usize, usize),
    Function(usize),
    Import(usize),
    /// Given different values: which one holds is decided at run time.
    Uncertain,
}

/// Where an import leads.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum ImportTarget {
    /// A name in this file.
    In(FileId),
    /// The file as a module.
    Module(FileId),
    Elsewhere,
}

/// What a name stands for.
#[derive(Clone, Debug)]
pub enum Found<'p> {
    Class(FileId, &'p Class),
    Value(FileId, &'p Expr),
    Function(FileId, &'p Function),
    Module(FileId),
    /// Another package: the full dotted path there.
    External(String),
    Unknown,
}

/// What files were lowered to, kept from one reading to the next by their texts: a project of which
/// one file changed costs that file when it is read again.
#[derive(Debug, Default)]
pub struct Outlines(Mutex<HashMap<(&'static str, FileId), Kept>>);

/// The outline of a text. Places in it name the file by its number.
#[derive(Clone, Debug)]
struct Kept {
    path: Arc<str>,
    text: Arc<str>,
    outline: Arc<Outline>,
}

impl Outlines {
    /// The outline that is kept of the file, or else a new one.
    fn outline(&self, language: &Language, id: FileId, file: &SourceFile) -> Outline {
        let key = (language.id, id);
        let known = self.0.lock().ok().and_then(|kept| kept.get(&key).cloned());
        if let Some(known) = known
            && *known.path == *file.path
            && *known.text == *file.text
        {
            return (*known.outline).clone();
        }
        let outline = language.outline(id, file);
        let (path, text) = (Arc::from(&*file.path), file.text.clone());
        let kept = Kept { path, text, outline: Arc::new(outline.clone()) };
        // Whoever panicked while the lock was held left a map that only lacks an entry.
        self.0.lock().unwrap_or_else(PoisonError::into_inner).insert(key, kept);
        outline
    }
}

impl Project {
    /// Lowers the inputs that hold a mark, and whatever they import from files in reach.
    ///
    /// A class may extend a declared one without holding any mark itself, so unmarked files that
    /// define classes over classes known so far are lowered too.
    pub fn load(
        inputs: Vec<(String, String)>,
        wanted: &Wanted<'_>,
        provider: &dyn FileProvider,
    ) -> Project {
        Project::load_keeping(inputs, wanted, provider, None)
    }

    /// The same; what each file is lowered to is taken from those that are kept, or kept there.
    pub fn load_keeping(
        inputs: Vec<(String, String)>,
        wanted: &Wanted<'_>,
        provider: &dyn FileProvider,
        kept: Option<&Outlines>,
    ) -> Project {
        let finders: Vec<memmem::Finder<'_>> =
            wanted.marks.iter().map(memmem::Finder::new).collect();
        let marked =
            |text: &str| finders.iter().any(|finder| finder.find(text.as_bytes()).is_some());
        // Searching for a mark costs a hundredth of lowering, and most files hold none.
        let (mut wave, mut idle): (Vec<_>, Vec<_>) =
            inputs.into_iter().partition(|(_, text)| marked(text));
        let project = Project::default();
        let mut loader = Loader { wanted, provider, kept, project, types: Mutex::default() };
        while !wave.is_empty() {
            loader.lower(std::mem::take(&mut wave));
            (wave, idle) = loader.extending(idle);
        }
        // Inputs come first, then the framework's own classes, then what is imported: a file is an
        // input by its number.
        loader.project.inputs = loader.project.outlines.len();
        loader.lower(
            wanted
                .stand_ins
                .iter()
                .map(|(path, text)| ((*path).to_owned(), (*text).to_owned()))
                .collect(),
        );
        let mut waiting: HashMap<String, String> = idle.into_iter().collect();
        let mut from = 0;
        loop {
            let found = loader.imported(from, &mut waiting);
            from = loader.project.outlines.len();
            if found.is_empty() {
                break;
            }
            loader.lower(found);
        }
        loader.connect();
        loader.project
    }

    /// Reads every file, several at once. What the members of a `spent` class are made of is let go
    /// as soon as its file is read: only the reader of the class itself looks at it, unless another
    /// class extends it.
    pub fn read_each<P: Send>(
        &mut self,
        read: impl Fn(&Project, FileId) -> P + Sync,
        spent: impl Fn(FileId, &Class) -> bool + Sync,
    ) -> Vec<P> {
        let extended = self.extended();
        let mut parts = Vec::with_capacity(self.outlines.len());
        for start in (0..self.outlines.len()).step_by(FILES_AT_ONCE) {
            let end = (start + FILES_AT_ONCE).min(self.outlines.len());
            let project = &*self;
            parts.par_extend(
                (start..end).into_par_iter().map(|at| read(project, FileId(at as u32))),
            );
            self.outlines[start..end].par_iter_mut().enumerate().for_each(|(at, outline)| {
                let file = FileId((start + at) as u32);
                let done = outline
                    .classes
                    .iter_mut()
                    .filter(|class| spent(file, class) && !extended.contains(&class.name));
                done.for_each(Class::spend);
            });
        }
        parts
    }

    /// Last names of the bases of all classes.
    fn extended(&self) -> HashSet<SmolStr> {
        let bases = self
            .outlines
            .iter()
            .flat_map(|outline| &outline.classes)
            .flat_map(|class| &class.bases);
        bases
            .filter_map(Expr::name)
            .map(|name| name.rsplit('.').next().unwrap_or(name).into())
            .collect()
    }

    /// The sources alone; everything else is let go.
    pub fn into_sources(self) -> Sources {
        let Project {
            known_calls: _,
            sources,
            outlines,
            inputs: _,
            database: _,
            environment: _,
            budget: _,
            paths,
            names,
            targets,
        } = self;
        outlines.into_par_iter().for_each(drop);
        drop((paths, names, targets));
        sources
    }

    /// The file's path as the user sees it.
    pub fn path(&self, file: FileId) -> &str {
        &self.sources.file(file).path
    }

    /// Whether the file was asked for (and not merely imported).
    pub fn is_input(&self, file: FileId) -> bool {
        (file.0 as usize) < self.inputs
    }

    /// Files with their outlines.
    pub fn files(&self) -> impl Iterator<Item = (FileId, &Outline)> {
        self.outlines.iter().enumerate().map(|(at, outline)| (FileId(at as u32), outline))
    }

    /// The file that `require(module)` in `file` gives, where it is read.
    pub fn required(&self, file: FileId, module: &str) -> Option<FileId> {
        path_candidates(self.path(file), module)
            .iter()
            .find_map(|path| self.paths.get(path).copied())
    }

    /// What a dotted name means in `file`, inside the class `scope` if given.
    pub fn lookup<'p>(&'p self, file: FileId, scope: Option<&'p Class>, dotted: &str) -> Found<'p> {
        let mut segments = dotted.split('.');
        let head = segments.next().unwrap_or_default();
        let inside = scope.map_or(Found::Unknown, |class| self.in_class(file, class, head));
        let mut found = match inside {
            Found::Unknown => self.in_file(file, head, 0),
            known => known,
        };
        for segment in segments {
            found = match found {
                Found::Class(file, class) => self.in_class(file, class, segment),
                Found::Module(file) => self.in_file(file, segment, 0),
                Found::External(path) => Found::External(format!("{path}.{segment}")),
                Found::Value(file, value) => {
                    value.entry(segment).map_or(Found::Unknown, |value| Found::Value(file, value))
                }
                Found::Function(_, _) | Found::Unknown => Found::Unknown,
            };
        }
        found
    }

    fn in_class<'p>(&'p self, file: FileId, class: &'p Class, name: &str) -> Found<'p> {
        if let Some(nested) = class.nested(name) {
            return Found::Class(file, nested);
        }
        class
            .member(name)
            .and_then(|member| member.value.as_ref())
            .map_or(Found::Unknown, |value| Found::Value(file, value))
    }

    fn in_file<'p>(&'p self, file: FileId, name: &str, depth: u32) -> Found<'p> {
        if depth > 32 {
            return Found::Unknown;
        }
        let at = file.0 as usize;
        let outline = &self.outlines[at];
        match self.names[at].get(name) {
            Some(Item::Class(index)) => Found::Class(file, &outline.classes[*index]),
            Some(Item::Assignment(index)) => Found::Value(file, &outline.assignments[*index].value),
            Some(Item::Entry(index, pair)) => match &outline.assignments[*index].value.kind {
                ExprKind::Map(pairs) => Found::Value(file, &pairs[*pair].1),
                _ => Found::Unknown,
            },
            Some(Item::Function(index)) => Found::Function(file, &outline.functions[*index]),
            Some(Item::Import(index)) => {
                self.through(&outline.imports[*index], self.targets[at][*index], depth)
            }
            Some(Item::Uncertain) => Found::Unknown,
            None => self.through_stars(at, name, depth),
        }
    }

    fn through<'p>(&'p self, import: &Import, target: ImportTarget, depth: u32) -> Found<'p> {
        match target {
            ImportTarget::Module(file) => Found::Module(file),
            ImportTarget::In(file) if import.name == "default" => {
                match self.in_file(file, &import.local, depth + 1) {
                    Found::Unknown => self.outlines[file.0 as usize]
                        .classes
                        .first()
                        .map_or(Found::Unknown, |class| Found::Class(file, class)),
                    found => found,
                }
            }
            ImportTarget::In(file) => self.in_file(file, &import.name, depth + 1),
            ImportTarget::Elsewhere if import.name.is_empty() => {
                Found::External(import.module.to_string())
            }
            ImportTarget::Elsewhere => {
                Found::External(format!("{}.{}", import.module, import.name))
            }
        }
    }

    fn through_stars<'p>(&'p self, at: usize, name: &str, depth: u32) -> Found<'p> {
        for (import, target) in self.outlines[at].imports.iter().zip(&self.targets[at]) {
            if let (true, ImportTarget::In(file) | ImportTarget::Module(file)) =
                (import.local == "*", target)
            {
                match self.in_file(*file, name, depth + 1) {
                    Found::Unknown => {}
                    found => return found,
                }
            }
        }
        Found::Unknown
    }
}

struct Loader<'a> {
    wanted: &'a Wanted<'a>,
    provider: &'a dyn FileProvider,
    kept: Option<&'a Outlines>,
    project: Project,
    /// Files of types by package.
    types: Mutex<HashMap<String, Option<String>>>,
}

impl Loader<'_> {
    fn lower(&mut self, files: Vec<(String, String)>) {
        let first = self.project.outlines.len() as u32;
        let language = self.wanted.language;
        let lowered: Vec<(SourceFile, Outline)> = files
            .into_par_iter()
            .enumerate()
            .map(|(at, (path, text))| {
                let file = SourceFile::new(path, Arc::from(text));
                let id = FileId(first + at as u32);
                let outline = match self.kept {
                    Some(kept) => kept.outline(language, id, &file),
                    None => language.outline(id, &file),
                };
                (file, outline)
            })
            .collect();
        for (file, outline) in lowered {
            self.project
                .paths
                .insert(file.path.to_string(), FileId(self.project.outlines.len() as u32));
            self.project.budget.add_text(file.text.len());
            self.project.sources.files.push(file);
            self.project.outlines.push(outline);
        }
    }

    /// Splits off the files that define a class over a class known so far.
    #[expect(
        clippy::type_complexity,
        reason = "two lists of path and text, told apart by their place"
    )]
    fn extending(
        &self,
        idle: Vec<(String, String)>,
    ) -> (Vec<(String, String)>, Vec<(String, String)>) {
        let classes = self.project.outlines.iter().flat_map(|outline| &outline.classes);
        let known: HashSet<&str> = classes.map(|class| class.name.as_str()).collect();
        let names_a_known_base = |text: &str| {
            memmem::find_iter(text.as_bytes(), "class ").any(|at| {
                let line = text[at..].lines().next().unwrap_or_default();
                let bases = line
                    .split_once('(')
                    .or_else(|| line.split_once(" extends "))
                    .map_or("", |(_, bases)| bases);
                bases
                    .split(|letter: char| !letter.is_alphanumeric() && letter != '_')
                    .any(|word| known.contains(word))
            })
        };
        idle.into_iter().partition(|(_, text)| names_a_known_base(text))
    }

    /// Files that the files from index `from` on import and that are not loaded yet.
    fn imported(
        &self,
        from: usize,
        waiting: &mut HashMap<String, String>,
    ) -> Vec<(String, String)> {
        let mut found: Vec<(String, String)> = Vec::new();
        for at in from..self.project.outlines.len() {
            let path = self.project.sources.files[at].path.clone();
            for import in &self.project.outlines[at].imports {
                for candidate in self.candidates(&path, import) {
                    if self.project.paths.contains_key(&candidate)
                        || found.iter().any(|(known, _)| *known == candidate)
                    {
                        break;
                    }
                    let text =
                        waiting.remove(&candidate).or_else(|| self.provider.read(&candidate));
                    if let Some(text) = text {
                        found.push((candidate, text));
                        break;
                    }
                }
            }
        }
        found
    }

    /// Paths at which an import may be found, best first.
    fn candidates(&self, path: &str, import: &Import) -> Vec<String> {
        if (self.wanted.is_framework)(&import.module) {
            return Vec::new();
        }
        let folder = folder_of(path);
        match self.wanted.language.imports {
            Imports::Modules => module_candidates(folder, import, self.provider.roots()),
            Imports::Paths if import.module.starts_with('.') => {
                path_candidates(path, &import.module)
            }
            Imports::Paths => self.package_candidates(&import.module),
            Imports::Nothing => Vec::new(),
        }
    }

    /// Where a package of a folder named with `--follow` declares what it exports: the types that
    /// its description names, else its usual places.
    fn package_candidates(&self, module: &str) -> Vec<String> {
        let end = module
            .match_indices('/')
            .nth(usize::from(module.starts_with('@')))
            .map_or(module.len(), |(at, _)| at);
        let (name, inside) = (&module[..end], module[end..].trim_start_matches('/'));
        let mut candidates = Vec::new();
        for root in self.provider.roots() {
            let package = format!("{root}/{name}");
            if inside.is_empty() {
                candidates.extend(
                    self.types(&package)
                        .map(|types| format!("{package}/{}", types.trim_start_matches("./"))),
                );
                candidates.extend(
                    ["index.d.ts", "index.ts", "src/index.ts", "index.js"]
                        .map(|end| format!("{package}/{end}")),
                );
            } else {
                candidates.extend(
                    [".d.ts", ".ts", "/index.d.ts", "/index.ts", ".js", "/index.js"]
                        .map(|end| format!("{package}/{inside}{end}")),
                );
            }
        }
        candidates
    }

    /// The file of types that a package's description names, or else that of its code.
    fn types(&self, package: &str) -> Option<String> {
        let mut known = self.types.lock().ok()?;
        let read = || {
            let description: serde_json::Value =
                serde_json::from_str(&self.provider.read(&format!("{package}/package.json"))?)
                    .ok()?;
            ["types", "typings", "main"]
                .iter()
                .find_map(|key| description[key].as_str().map(str::to_owned))
        };
        known.entry(package.to_owned()).or_insert_with(read).clone()
    }

    fn connect(&mut self) {
        let targets: Vec<Vec<ImportTarget>> = (0..self.project.outlines.len())
            .into_par_iter()
            .map(|at| {
                let path = &self.project.sources.files[at].path;
                self.project.outlines[at]
                    .imports
                    .iter()
                    .map(|import| self.target(path, import))
                    .collect()
            })
            .collect();
        self.project.targets = targets;
        self.project.names = self.project.outlines.par_iter().map(names).collect();
    }

    fn target(&self, path: &str, import: &Import) -> ImportTarget {
        let candidates = self.candidates(path, import);
        let Some((candidate, file)) =
            candidates.iter().find_map(|path| Some((path, *self.project.paths.get(path)?)))
        else {
            return ImportTarget::Elsewhere;
        };
        let whole = import.name.is_empty()
            || (self.wanted.language.imports == Imports::Modules
                && is_submodule(candidate, import));
        if whole { ImportTarget::Module(file) } else { ImportTarget::In(file) }
    }
}

fn folder_of(path: &str) -> &str {
    path.rsplit_once('/').map_or("", |(folder, _)| folder)
}

fn names(outline: &Outline) -> HashMap<SmolStr, Item> {
    let mut names = HashMap::new();
    for (at, import) in outline.imports.iter().enumerate().filter(|(_, import)| import.local != "*")
    {
        names.insert(import.local.clone(), Item::Import(at));
    }
    for (at, function) in outline.functions.iter().enumerate() {
        names.insert(function.name.clone(), Item::Function(at));
    }
    for (at, assignment) in outline
        .assignments
        .iter()
        .enumerate()
        .filter(|(_, assignment)| !assignment.name.contains('.'))
    {
        // A name that is given a value twice has neither for certain; one that an import may fail
        // to give is the import.
        let item = match names.get(&assignment.name) {
            Some(Item::Import(_)) if assignment.value.kind == ExprKind::Null => continue,
            Some(Item::Assignment(_) | Item::Uncertain) => Item::Uncertain,
            _ => Item::Assignment(at),
        };
        names.insert(assignment.name.clone(), item);
    }
    for (at, class) in outline.classes.iter().enumerate() {
        // A class that may not exist does not hide what surely does.
        if !(class.conditional && names.contains_key(&class.name)) {
            names.insert(class.name.clone(), Item::Class(at));
        }
    }
    exported(outline, &mut names);
    names
}

/// Names that a module of CommonJS gives away, where they are no names of its own.
fn exported(outline: &Outline, names: &mut HashMap<SmolStr, Item>) {
    for (at, assignment) in outline.assignments.iter().enumerate() {
        let path = assignment.name.strip_prefix("module.").unwrap_or(&assignment.name);
        match (path.strip_prefix("exports."), &assignment.value.kind) {
            // Compilers give every name no value first.
            (Some(_), ExprKind::Opaque) => {}
            (Some(_), ExprKind::Operation { operator, .. }) if operator == "void" => {}
            (Some(name), _) if !name.contains('.') => {
                names.entry(name.into()).or_insert(Item::Assignment(at));
            }
            (None, ExprKind::Map(pairs)) if path == "exports" => {
                for (pair, (key, _)) in pairs.iter().enumerate() {
                    if let Some(name) = key.text() {
                        names.entry(name.into()).or_insert(Item::Entry(at, pair));
                    }
                }
            }
            _ => {}
        }
    }
}

/// `from . import base` may name the file `base.py`.
fn is_submodule(candidate: &str, import: &Import) -> bool {
    let stem = candidate.trim_end_matches("/__init__.py").trim_end_matches(".py");
    let last = stem.rsplit('/').next().unwrap_or_default();
    last == import.name && import.module.rsplit('.').next() != Some(last)
}

fn module_candidates(folder: &str, import: &Import, roots: &[String]) -> Vec<String> {
    let dots = import.module.chars().take_while(|letter| *letter == '.').count();
    let tail = import.module[dots..].replace('.', "/");
    let mut bases: Vec<String> = Vec::new();
    if dots > 0 {
        let mut base = folder;
        for _ in 1..dots {
            base = base.rsplit_once('/').map_or("", |(parent, _)| parent);
        }
        bases.push(base.to_owned());
    } else {
        let mut base = folder;
        loop {
            bases.push(base.to_owned());
            if base.is_empty() {
                break;
            }
            base = base.rsplit_once('/').map_or("", |(parent, _)| parent);
        }
        bases.extend(roots.iter().cloned());
        bases.push(String::new());
    }
    let mut candidates = Vec::new();
    for base in bases {
        let module = [base.as_str(), tail.as_str()]
            .iter()
            .filter(|part| !part.is_empty())
            .copied()
            .collect::<Vec<_>>()
            .join("/");
        let mut push = |stem: String| {
            for end in [".py", "/__init__.py"] {
                let candidate = format!("{stem}{end}");
                if !candidates.contains(&candidate) {
                    candidates.push(candidate);
                }
            }
        };
        if !import.name.is_empty() && import.name != "*" {
            push(if module.is_empty() {
                import.name.to_string()
            } else {
                format!("{module}/{}", import.name)
            });
        }
        if !module.is_empty() {
            push(module);
        }
    }
    candidates
}

/// Code finds code before declarations of types; what is typed finds the declarations before code.
fn path_candidates(path: &str, module: &str) -> Vec<String> {
    let folder = folder_of(path);
    let mut parts: Vec<&str> = folder.split('/').filter(|part| !part.is_empty()).collect();
    for step in module.split('/') {
        match step {
            "." | "" => {}
            ".." => {
                parts.pop();
            }
            name => parts.push(name),
        }
    }
    let lead = if folder.starts_with('/') { "/" } else { "" };
    let stem = format!("{lead}{}", parts.join("/"));
    let bare = stem.trim_end_matches(".js").to_owned();
    let (types, code) =
        ([".d.ts", "/index.d.ts"].as_slice(), [".js", "/index.js", ".cjs", ".mjs"].as_slice());
    let compiled = if path.ends_with("js") { [code, types] } else { [types, code] };
    let endings = [".ts", "/index.ts"].iter().chain(compiled.into_iter().flatten());
    endings.map(|ending| format!("{bare}{ending}")).chain([stem.clone()]).collect()
}
