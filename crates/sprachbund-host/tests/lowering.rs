//! What a text of a host language becomes in the outline.

mod notation;

use notation::{expr, list};
use sprachbund_host::Language;
use sprachbund_host::outline::{Class, ClassKind, Outline};
use sprachbund_host::python::PYTHON;
use sprachbund_host::typescript::TYPESCRIPT;
use sprachbund_schema::source::{FileId, SourceFile};

fn outline(language: &Language, text: &str) -> Outline {
    language.outline(FileId(0), &SourceFile::new("harbour/models", text))
}

fn class(class: &Class) -> String {
    let kind = match class.kind {
        ClassKind::Class => "class",
        ClassKind::Abstract => "abstract class",
        ClassKind::Enum => "enum",
    };
    let mut out =
        format!("{}{kind} {}", if class.conditional { "perhaps " } else { "" }, class.name);
    let mut part = |open: &str, parts: Vec<String>, close: &str| {
        if !parts.is_empty() {
            out.push_str(&format!("{open}{}{close}", parts.join("; ")));
        }
    };
    part(" of ", class.bases.iter().map(expr).collect(), "");
    part(" @ ", class.decorators.iter().map(expr).collect(), "");
    part(" doc ", class.documentation.iter().cloned().collect(), "");
    let members = class.members.iter().map(|member| {
        let decorators: String =
            member.decorators.iter().map(|decorator| format!("@{} ", expr(decorator))).collect();
        let accessor = if member.accessor { "get " } else { "" };
        let annotation =
            member.annotation.as_ref().map_or(String::new(), |ty| format!(": {}", expr(ty)));
        let value =
            member.value.as_ref().map_or(String::new(), |value| format!(" = {}", expr(value)));
        let doc =
            member.documentation.as_ref().map_or(String::new(), |text| format!(" doc {text}"));
        format!(
            "{decorators}{accessor}{}{}{annotation}{value}{doc}",
            member.name,
            if member.optional { "?" } else { "" }
        )
    });
    let methods = class.methods.iter().map(|method| {
        let statements = if method.statements.is_empty() {
            String::new()
        } else {
            format!(" does {}", list(&method.statements))
        };
        format!(
            "{}(){}{statements}",
            method.name,
            method.returns.as_ref().map_or(String::new(), |value| format!(" => {}", expr(value)))
        )
    });
    part(" { ", members.chain(methods).chain(class.nested.iter().map(self::class)).collect(), " }");
    out
}

fn whole(outline: &Outline) -> String {
    let imports = outline
        .imports
        .iter()
        .map(|import| format!("import {} = {}:{}", import.local, import.module, import.name));
    let assignments = outline
        .assignments
        .iter()
        .map(|assignment| format!("{} = {}", assignment.name, expr(&assignment.value)));
    let functions = outline.functions.iter().map(|function| {
        format!(
            "function {}{}",
            function.name,
            function.returns.as_ref().map_or(String::new(), |value| format!(" => {}", expr(value)))
        )
    });
    let errors = (!outline.errors.is_empty()).then(|| "error".to_owned());
    let parts =
        imports.chain(outline.classes.iter().map(class)).chain(assignments).chain(functions);
    parts.chain(outline.calls.iter().map(expr)).chain(errors).collect::<Vec<_>>().join(" | ")
}

fn check(table: &str, cases: &[(&str, &str)], seen: impl Fn(&str) -> String) {
    let differ = cases
        .iter()
        .map(|(text, expected)| (text, seen(text), expected))
        .filter(|(_, found, expected)| found != *expected);
    let differ: Vec<String> = differ
        .map(|(text, found, expected)| format!("{text}\n  found    {found}\n  expected {expected}"))
        .collect();
    assert!(differ.is_empty(), "{table}\n{}", differ.join("\n"));
}

fn value(language: &Language, text: &str) -> String {
    outline(language, text)
        .assignments
        .first()
        .map_or("nothing".into(), |assignment| expr(&assignment.value))
}

#[test]
fn python_expressions() {
    check("python", PYTHON_EXPRESSIONS, |text| value(&PYTHON, &format!("x = {text}\n")));
}

#[test]
fn python_files() {
    check("python", PYTHON_FILES, |text| whole(&outline(&PYTHON, text)));
}

#[test]
fn typescript_expressions() {
    check("typescript", TYPESCRIPT_EXPRESSIONS, |text| {
        value(&TYPESCRIPT, &format!("const x = {text};\n"))
    });
}

#[test]
fn typescript_types() {
    check("typescript", TYPESCRIPT_TYPES, |text| {
        value(&TYPESCRIPT, &format!("type x = {text};\n"))
    });
}

#[test]
fn typescript_files() {
    check("typescript", TYPESCRIPT_FILES, |text| whole(&outline(&TYPESCRIPT, text)));
}

#[test]
fn nothing_is_too_deep() {
    for (language, open, close) in
        [(&PYTHON, "(", ")"), (&TYPESCRIPT, "[", "]"), (&PYTHON, "f(", ")")]
    {
        let text = format!("x = {}1{}\n", open.repeat(5_000), close.repeat(5_000));
        assert!(outline(language, &text).assignments.len() <= 1);
    }
    let nested: String = (0..200).map(|depth| format!("{}class A:\n", " ".repeat(depth))).collect();
    assert!(outline(&PYTHON, &nested).classes.len() <= 1);
}

#[test]
fn places_count_lines_and_characters() {
    let file = SourceFile::new("harbour/models.py", "eins\nzwö =\u{1f6a2} x\r\n\nlast");
    for (offset, place) in [
        (0, (1, 1)),
        (4, (1, 5)),
        (5, (2, 1)),
        (9, (2, 4)),
        (11, (2, 6)),
        (15, (2, 7)),
        (19, (3, 1)),
        (20, (4, 1)),
        (24, (4, 5)),
    ] {
        assert_eq!(file.position(offset), place, "{offset}");
    }
}

#[test]
fn broken_syntax_costs_one_declaration() {
    let text = "import { Column } from 'typeorm';
@Entity()
class A {
  x: string;
}
@Entity()
class B {
  @Column(
  y: string;
}

@Entity()
export class C {
  z: string;
}
";
    let found = outline(&TYPESCRIPT, text);
    let names: Vec<&str> =
        found.classes.iter().map(|class| class.name.as_str()).filter(|name| *name != "B").collect();
    assert_eq!(names, ["A", "C"]);
    let file = SourceFile::new("", text);
    assert!(
        found.errors.iter().all(|span| (6..=10).contains(&file.position(span.start).0)),
        "{:?}",
        found.errors
    );
    let last = &found.classes.last().expect("a class").members[0];
    assert_eq!(&text[last.span.start as usize..last.span.end as usize], "z");
}

const PYTHON_EXPRESSIONS: &[(&str, &str)] = &[
    ("'a' 'b'", "'ab'"),
    ("f'{A}-x'", "(template '' A '-x')"),
    ("r'a\\nb'", "'a\\nb'"),
    ("b'raw'", "(bytes 'raw')"),
    ("'it\\'s \\x41\\u00e9\\n'", "'it's Aé\n'"),
    ("'''long\ntext'''", "'long\ntext'"),
    ("1_000", "1000"),
    ("-3", "-3"),
    ("0x1F", "0x1F"),
    ("1.5e3", "1.5e3"),
    ("True", "true"),
    ("None", "null"),
    ("a.b.c", "a.b.c"),
    ("call(1, b=2)", "call(1, b=2)"),
    ("call(*rest, **more)", "call(...rest, ...more)"),
    ("models.Index(fields=['a'], name='n')", "models.Index(fields=['a'], name='n')"),
    ("[1, (2, 3), {4}]", "[1, [2, 3], [4]]"),
    ("{'a': 1, **other}", "{'a': 1, ...other: null}"),
    ("lambda a, b: a + b", "(a, b) => (+ a b)"),
    ("not a", "(not a)"),
    ("a | b & c", "(| a (& b c))"),
    ("a if b else c", "?"),
    ("x[0]", "([] x 0)"),
    ("f().name", "(.name f())"),
    ("(yield)", "?"),
    ("[n for n in names]", "?"),
    ("~Q(a=1)", "(~ Q(a=1))"),
    ("a and b or c", "(or (and a b) c)"),
    ("(1)", "1"),
    ("...", "?"),
    ("await a", "a"),
    ("'{}'.format(1)", "(.format '{}')(1)"),
    ("a <= b", "(<= a b)"),
    ("a := 1", "?"),
];

const PYTHON_FILES: &[(&str, &str)] = &[
    ("import a.b", "import a = a:"),
    ("import a.b as c", "import c = a.b:"),
    ("from .x import y", "import y = .x:y"),
    ("from ..x import y as z, w", "import z = ..x:y | import w = ..x:w"),
    ("from . import *", "import * = .:*"),
    ("from a import (b,\n  c)", "import b = a:b | import c = a:c"),
    (
        "class A(B, C['t']):
    '''Doc.'''
    x = 1
    y: int = 2
    z: str
    def m(self):
        return self.x
    class Meta:
        a = 1",
        "class A of B; ([] C 't') doc Doc. { x = 1; y: int = 2; z: str; m() => self.x; class \
         Meta { a = 1 } }",
    ),
    ("@deco(1)\nclass A: pass", "class A @ deco(1)"),
    ("if x:\n    class A: pass", "perhaps class A"),
    ("try:\n    import a\nexcept ImportError:\n    a = None", "import a = a: | a = null"),
    ("def f():\n    return 3", "function f => 3"),
    ("def f(x):\n    y = 1\n    return y", "function f"),
    (
        "class A:
    def __init__(self, **kw):
        kw['max_length'] = 6
        super().__init__(**kw)",
        "class A { __init__() does (= ([] kw 'max_length') 6), (.__init__ super())(...kw) }",
    ),
    ("def f():\n    '''Doc.'''\n    # said\n    return {'a': 1}", "function f => {'a': 1}"),
    ("class A:\n    x = (\n\nclass B:\n    y = 1", "class A | class B { y = 1 } | error"),
    ("A.b = 1", "A.b = 1"),
    ("a = b = 1", "a = (= b 1)"),
    ("register(A)", "register(A)"),
    ("class A:\n    @property\n    def p(self): return 1", "class A { p() => 1 }"),
    ("X: int = 3", "X = 3"),
    ("def f():\n    class A: pass", "perhaps class A | function f"),
];

const TYPESCRIPT_EXPRESSIONS: &[(&str, &str)] = &[
    ("'a'", "'a'"),
    ("`a${B}c`", "(template 'a' B 'c')"),
    ("`plain`", "'plain'"),
    ("'it\\'s \\u{e9}\\x41'", "'it's éA'"),
    ("1_000n", "1000n"),
    ("-3", "-3"),
    ("0x1F", "0x1F"),
    ("true", "true"),
    ("null", "null"),
    ("undefined", "null"),
    ("a.b.c", "a.b.c"),
    ("call(1, { b: 2 })", "call(1, {'b': 2})"),
    ("[1, ...rest]", "[1, ...rest]"),
    (
        "{ a: 1, 'b-c': 2, [k]: 3, d, ...rest, m() {} }",
        "{'a': 1, 'b-c': 2, k: 3, 'd': d, ...rest: null, 'm': ?}",
    ),
    ("() => Quay", "() => Quay"),
    ("(q) => q.berths", "(q) => q.berths"),
    ("q => { return q.berths; }", "(q) => q.berths"),
    ("async () => 1", "() => 1"),
    ("a as string", "a"),
    ("a!", "a"),
    ("<any>a", "?"),
    ("a satisfies B", "a"),
    ("new Date(1)", "new Date(1)"),
    ("a || b", "(|| a b)"),
    ("!a", "(! a)"),
    ("typeof a", "(typeof a)"),
    ("a ? b : c", "(?: a b c)"),
    ("x[0]", "([] x 0)"),
    ("f().name", "(.name f())"),
    ("(1)", "1"),
    ("function () { return 1; }", "() => 1"),
    ("a?.b", "a?.b"),
    ("/re/g", "?"),
    ("await a", "a"),
];

const TYPESCRIPT_TYPES: &[(&str, &str)] = &[
    ("string", "string"),
    ("string | null", "(| string null)"),
    ("Quay[]", "([] Quay)"),
    ("Promise<Quay>", "Promise(Quay)"),
    ("Array<Quay | undefined>", "Array((| Quay null))"),
    ("'a' | 'b'", "(| 'a' 'b')"),
    ("1 | 2", "(| 1 2)"),
    ("readonly string[]", "([] string)"),
    ("A & B", "(& A B)"),
    ("{ a: string }", "?"),
    ("typeof A", "?"),
    ("import('x').Y", "(.Y ?('x'))"),
    ("a.B", "a.B"),
    ("unique symbol", "unique symbol"),
    ("(string | null)[]", "([] (| string null))"),
    ("Relation<Quay>", "Relation(Quay)"),
    ("bigint", "bigint"),
    ("A[keyof B]", "?"),
];

const TYPESCRIPT_FILES: &[(&str, &str)] = &[
    ("import a from 'x';", "import a = x:default"),
    ("import * as a from 'x';", "import a = x:"),
    ("import { b, c as d } from './x';", "import b = ./x:b | import d = ./x:c"),
    ("import type { E } from 'x';", "import E = x:E"),
    ("import 'x';", ""),
    ("export * from './x';", "import * = ./x:*"),
    ("export { a as b } from './x';", "import b = ./x:a"),
    ("export { default } from './x';", "import default = ./x:default"),
    ("export const a = 1, b = 2;", "a = 1 | b = 2"),
    ("let c = 'x';", "c = 'x'"),
    ("export type K = 'a' | 'b';", "K = (| 'a' 'b')"),
    (
        "export enum Side { Port, Star = 'x', Both = 4 }",
        "enum Side { Port = 0; Star = 'x'; Both = 4 }",
    ),
    ("const enum Side { Port }", "enum Side { Port = 0 }"),
    ("export interface A { b: string }", ""),
    (
        "@Entity('quays')
export class Quay extends Base {
  @Column({ length: 4 })
  @Index()
  name!: string;
  note?: string | null;
  static count = 0;
  private readonly depth: number = 3;
  get twice() { return 2; }
  move(): void {}
}",
        "class Quay of Base @ Entity('quays') { @Column({'length': 4}) @Index() name: string; \
         note?: (| string null); count = 0; depth: number = 3; twice() => 2; move() }",
    ),
    ("export default class Quay {}", "class Quay"),
    ("export abstract class Base {}", "abstract class Base"),
    (
        "/** Where ships lie. */
@Entity()
class Quay {
  /** Its name. */
  @Column()
  name: string;
}",
        "class Quay @ Entity() doc Where ships lie. { @Column() name: string doc Its name. }",
    ),
    ("function f() { return { a: 1 }; }", "function f => {'a': 1}"),
    ("const f = () => 3;", "f = () => 3"),
    (
        "export const Quay = new EntitySchema({ name: 'Quay' });",
        "Quay = new EntitySchema({'name': 'Quay'})",
    ),
    ("class A {\n  @Column(\n  x: string;\n}\nclass B {}", "class A | class B | error"),
    ("declare class A { x: string }", ""),
    ("namespace N { export class A {} }", "class A"),
    (
        "function f() {\n  @Entity()\n  class A {}\n  return A;\n}",
        "perhaps class A @ Entity() | function f",
    ),
    ("module.exports = A;", "module.exports = A"),
    ("const a = require('x');", "import a = x:"),
    ("const { a, b: c } = require('x');", "import a = x:a | import c = x:b"),
    ("const { a } = b;", "a = b.a"),
    ("@Entity() export class A {}", "class A @ Entity()"),
    (
        "export class A {
  @VersionColumn() version: number;
  constructor(private x: string) {}
}",
        "class A { @VersionColumn() version: number; constructor() }",
    ),
];
