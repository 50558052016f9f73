//! What a value is worth, and through which imports it is found: each case is a default that names
//! something.

use std::collections::HashMap;

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read;
use sprachbund_core::schema::{Database, Default_};
use sprachbund_core::source::FileProvider;

struct Files {
    texts: HashMap<&'static str, &'static str>,
    roots: Vec<String>,
}

impl FileProvider for Files {
    fn read(&self, path: &str) -> Option<String> {
        self.texts.get(path).map(|text| (*text).to_owned())
    }

    fn roots(&self) -> &[String] {
        &self.roots
    }
}

/// The default of `a`: a literal as JSON, other defaults as JSON of their kind, `nothing` for none.
fn default(dialect: &str, text: String, files: &[(&'static str, &'static str)]) -> String {
    let dialect = by_id(dialect).expect("a dialect");
    let provider =
        Files { texts: files.iter().copied().collect(), roots: vec!["packages".to_owned()] };
    let mut settings = Settings { database: Some(Database::PostgreSql), ..Settings::default() };
    let path = format!("harbour/register/models.{}", dialect.extensions[0]);
    let reading = read(vec![(path, text)], dialect, &mut settings, &provider);
    let entity =
        reading.schema.entities.iter().find(|entity| entity.name == "T").expect("an entity");
    let field = entity.fields.iter().find(|field| field.column == "a").expect("a column");
    match field.defaults.application.as_deref().or(field.defaults.database.as_deref()) {
        Some(Default_::Literal(value)) => value.to_string(),
        Some(Default_::Function(function)) => format!("{function:?}"),
        Some(Default_::Expression(expression)) => {
            format!("{}: {}", expression.language, expression.text)
        }
        None => "nothing".to_owned(),
    }
}

fn django(head: &str, value: &str, files: &[(&'static str, &'static str)]) -> String {
    default(
        "django",
        format!(
            "from django.db import models
{head}


class T(models.Model):
    own = 4
    a = models.IntegerField(default={value})
"
        ),
        files,
    )
}

fn typeorm(head: &str, value: &str, files: &[(&'static str, &'static str)]) -> String {
    let text = format!(
        "import {{ Column, Entity }} from 'typeorm';
{head}

@Entity()
export class T {{
  @PrimaryColumn() id!: number;
  @Column({{ type: 'int', default: {value} }}) a!: number;
}}
"
    );
    default("typeorm", text, files)
}

/// What stands before, the value, and what it is worth.
type Value = (&'static str, &'static str, &'static str);

#[test]
fn python_values() {
    let cases: &[Value] = &[
        ("", "3", "3"),
        ("", "-3", "-3"),
        ("", "0x10", "16"),
        ("", "0b101", "5"),
        ("", "1_000", "1000"),
        ("", "1.5", "1.5"),
        ("", "'a' 'b'", "\"ab\""),
        ("", "True", "true"),
        ("", "2 + 3 * 4", "14"),
        ("", "2 ** 10", "1024"),
        ("", "1 << 4", "16"),
        ("", "7 - 9", "-2"),
        ("", "own", "4"),
        ("", "[1, 'x']", "[1,\"x\"]"),
        ("", "{'x': 1}", "{\"x\":1}"),
        ("LIMIT = 6", "LIMIT", "6"),
        ("LIMIT = 6\nTWICE = LIMIT * 2", "TWICE", "12"),
        ("NAMES = ['a']\nMORE = NAMES + ['b']", "MORE", "[\"a\",\"b\"]"),
        ("NAMES = ['a']", "[*NAMES, 'b']", "[\"a\",\"b\"]"),
        ("BASE = {'x': 1}", "{**BASE, 'y': 2}", "{\"x\":1,\"y\":2}"),
        ("PIER = 'pier'", "f'{PIER}-{3}'", "\"pier-3\""),
        ("PIER = 'pier'", "PIER + '-x'", "\"pier-x\""),
        ("class Side:\n    PORT = 'p'", "Side.PORT", "\"p\""),
        ("class Side(models.TextChoices):\n    PORT = 'p', 'Port side'", "Side.PORT", "\"p\""),
        (
            "class Side(models.TextChoices):\n    PORT = 'p', 'Port side'",
            "Side.PORT.value",
            "\"p\"",
        ),
        ("def four():\n    return 2 + 2", "four", "4"),
        ("def four():\n    return 2 + 2", "four()", "4"),
        ("class Side:\n    def port():\n        return 'p'", "Side.port", "python: Side.port"),
        // What is decided at run time stays as it stands.
        ("LIMITS = {'depth': 9}", "LIMITS['depth']", "9"),
        ("LIMITS = [7, 9]", "LIMITS[1]", "9"),
        ("LIMITS = [7, 9]", "LIMITS[2]", "python: LIMITS[2]"),
        ("LIMIT = 6\nLIMIT = 7", "LIMIT", "python: LIMIT"),
        ("def four(x):\n    return x", "four(4)", "python: four(4)"),
        ("", "count()", "python: count()"),
        ("", "7 // 2", "python: 7 // 2"),
        ("LIMIT = LIMIT", "LIMIT", "python: LIMIT"),
        ("", "2 ** 99", "python: 2 ** 99"),
    ];
    for (head, value, expected) in cases {
        assert_eq!(django(head, value, &[]), *expected, "{head}\n{value}");
    }
}

#[test]
fn typescript_values() {
    let cases: &[Value] = &[
        ("", "3", "3"),
        ("", "-3", "-3"),
        ("", "0x10", "16"),
        ("", "2 + 3 * 4", "14"),
        ("", "'a' + 'b'", "\"ab\""),
        ("const LIMIT = 6;", "LIMIT", "6"),
        ("const LIMIT = 6 as const;", "LIMIT", "6"),
        ("const PIER = 'pier';", "`${PIER}-${3}`", "\"pier-3\""),
        ("const LIMITS = { depth: 9 };", "LIMITS.depth", "9"),
        ("const LIMITS = { depth: 9, ...more() };", "LIMITS.depth", "typescript: LIMITS.depth"),
        ("const LIMITS = { ...more(), depth: 9 };", "LIMITS.depth", "9"),
        ("const LIMITS = { at: { sea: [9] } };", "LIMITS.at.sea[0]", "9"),
        ("enum Side { Port, Star }", "Side.Star", "1"),
        ("enum Side { Port = 4, Star }", "Side.Star", "5"),
        ("enum Side { Port = 'p' }", "Side.Port", "\"p\""),
        ("class Limits { static readonly depth = 9; }", "Limits.depth", "9"),
        ("const four = () => 2 + 2;", "four()", "4"),
        ("function four() { return 2 + 2; }", "four()", "4"),
        ("let LIMIT = 6;", "LIMIT", "6"),
        ("let LIMIT = 6;\nLIMIT += 1;", "LIMIT", "typescript: LIMIT"),
        ("let LIMIT = 6;\nLIMIT = 7;", "LIMIT", "typescript: LIMIT"),
        ("function four(x) { return x; }", "four(4)", "typescript: four(4)"),
        ("", "process.env.LIMIT", "typescript: process.env.LIMIT"),
    ];
    for (head, value, expected) in cases {
        assert_eq!(typeorm(head, value, &[]), *expected, "{head}\n{value}");
    }
}

/// How it is imported, how it is named, the other files, what it is worth.
type Import = (&'static str, &'static str, &'static [(&'static str, &'static str)], &'static str);

#[test]
fn python_imports() {
    let cases: &[Import] = &[
        ("from .names import LIMIT", "LIMIT", &[("harbour/register/names.py", "LIMIT = 6")], "6"),
        ("from .names import LIMIT as L", "L", &[("harbour/register/names.py", "LIMIT = 6")], "6"),
        ("from ..names import LIMIT", "LIMIT", &[("harbour/names.py", "LIMIT = 6")], "6"),
        ("from . import names", "names.LIMIT", &[("harbour/register/names.py", "LIMIT = 6")], "6"),
        ("from .names import *", "LIMIT", &[("harbour/register/names.py", "LIMIT = 6")], "6"),
        ("from harbour.names import LIMIT", "LIMIT", &[("harbour/names.py", "LIMIT = 6")], "6"),
        ("import harbour.names as n", "n.LIMIT", &[("harbour/names.py", "LIMIT = 6")], "6"),
        (
            "from .names import LIMIT",
            "LIMIT",
            &[("harbour/register/names/__init__.py", "LIMIT = 6")],
            "6",
        ),
        (
            "from .names import LIMIT",
            "LIMIT",
            &[
                ("harbour/register/names/__init__.py", "from .depths import LIMIT"),
                ("harbour/register/names/depths.py", "LIMIT = 6"),
            ],
            "6",
        ),
        (
            "from .names import LIMIT",
            "LIMIT",
            &[
                ("harbour/register/names.py", "from .depths import *"),
                ("harbour/register/depths.py", "BASE = 3\nLIMIT = BASE * 2"),
            ],
            "6",
        ),
        (
            "from depths.limits import LIMIT",
            "LIMIT",
            &[("packages/depths/limits.py", "LIMIT = 6")],
            "6",
        ),
        (
            "from .names import Side",
            "Side.PORT",
            &[("harbour/register/names.py", "class Side:\n    PORT = 'p'")],
            "\"p\"",
        ),
        (
            "from .names import four",
            "four",
            &[("harbour/register/names.py", "N = 4\ndef four():\n    return N")],
            "4",
        ),
        (
            "try:\n    from .names import LIMIT\nexcept ImportError:\n    LIMIT = None",
            "LIMIT",
            &[("harbour/register/names.py", "LIMIT = 6")],
            "6",
        ),
        (
            "from .names import LIMIT",
            "LIMIT",
            &[
                ("harbour/register/names.py", "from .depths import LIMIT"),
                ("harbour/register/depths.py", "from .names import LIMIT"),
            ],
            "python: LIMIT",
        ),
        ("from gone import LIMIT", "LIMIT", &[], "python: gone.LIMIT"),
    ];
    for (head, value, files, expected) in cases {
        assert_eq!(django(head, value, files), *expected, "{head}\n{value}");
    }
}

#[test]
fn typescript_imports() {
    let cases: &[Import] = &[
        (
            "import { LIMIT } from './names';",
            "LIMIT",
            &[("harbour/register/names.ts", "export const LIMIT = 6;")],
            "6",
        ),
        (
            "import { LIMIT as L } from './names';",
            "L",
            &[("harbour/register/names.ts", "export const LIMIT = 6;")],
            "6",
        ),
        (
            "import * as names from './names';",
            "names.LIMIT",
            &[("harbour/register/names.ts", "export const LIMIT = 6;")],
            "6",
        ),
        (
            "import { LIMIT } from '../names';",
            "LIMIT",
            &[("harbour/names/index.ts", "export const LIMIT = 6;")],
            "6",
        ),
        (
            "import { LIMIT } from './names.js';",
            "LIMIT",
            &[("harbour/register/names.ts", "export const LIMIT = 6;")],
            "6",
        ),
        (
            "import { LIMIT } from '../names';",
            "LIMIT",
            &[
                ("harbour/names/index.ts", "export * from './depths';"),
                ("harbour/names/depths.ts", "export const LIMIT = 2 * 3;"),
            ],
            "6",
        ),
        (
            "import { DEPTH } from '../names';",
            "DEPTH",
            &[
                ("harbour/names/index.ts", "export { LIMIT as DEPTH } from './depths';"),
                ("harbour/names/depths.ts", "export const LIMIT = 2 * 3;"),
            ],
            "6",
        ),
        (
            "import { LIMIT } from 'depths';",
            "LIMIT",
            &[
                ("packages/depths/package.json", "{\"types\": \"lib/all.d.ts\"}"),
                ("packages/depths/lib/all.d.ts", "export const LIMIT = 6;"),
            ],
            "6",
        ),
        ("import { LIMIT } from 'gone';", "LIMIT", &[], "typescript: LIMIT"),
    ];
    for (head, value, files, expected) in cases {
        assert_eq!(typeorm(head, value, files), *expected, "{head}\n{value}");
    }
}
