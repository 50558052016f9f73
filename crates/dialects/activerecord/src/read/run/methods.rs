//! What the language itself, and what the framework adds to its texts, numbers and lists, answers.

use std::rc::Rc;

use regex::{Regex, RegexBuilder};
use smol_str::SmolStr;

use super::{Arguments, Block, Done, Framework, Object, Run, Scope, Stop, Value};
use crate::inflection::Inflections;
use crate::source::Span;

/// Longest range that is counted out.
const LONGEST: i64 = 10_000;

/// Calls that neither change tables nor give a value.
const SILENT: &[&str] = &[
    "puts",
    "p",
    "pp",
    "print",
    "warn",
    "require",
    "require_relative",
    "load",
    "sleep",
    "private",
    "protected",
    "public",
    "module_function",
    "private_constant",
];

/// Calls that give back what they are called on.
const SELF: &[&str] = &["freeze", "dup", "clone", "itself", "deep_dup", "html_safe", "to_h!"];

impl<'p> Run<'_, 'p> {
    /// A call without a receiver that the language answers.
    pub(super) fn of_kernel(
        &mut self,
        scope: &Rc<Scope<'p>>,
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Option<Done<'p>> {
        Some(match name {
            "raise" | "fail" | "abort" => Err(Stop::Raised),
            "lambda" | "proc" => Ok(arguments.block.clone().map_or(Value::Nil, Value::Block)),
            "block_given?" => Ok(Value::Boolean(scope.given.is_some())),
            "format" | "sprintf" => Ok(formatted(&arguments.list).unwrap_or(Value::Unknown(span))),
            "loop" | "while" => Ok(Value::Unknown(span)),
            "Array" => Ok(match arguments.first() {
                Some(Value::List(items)) => Value::List(items.clone()),
                Some(Value::Nil) | None => Value::List(Vec::new()),
                Some(other) => Value::List(vec![other.clone()]),
            }),
            "tap" | "then" | "instance_eval" | "instance_exec" if arguments.block.is_some() => {
                let block = arguments.block.clone()?;
                self.block(&block, vec![scope.own.clone()], framework)
            }
            "send" | "public_send" | "__send__" => {
                let mut rest = arguments.clone();
                let name = (!rest.list.is_empty()).then(|| rest.list.remove(0).as_text())??;
                self.method(scope, None, &name, rest, span, framework)
            }
            silent if SILENT.contains(&silent) => Ok(Value::Nil),
            _ => return None,
        })
    }

    /// A call on a value that the language answers; `None` where the framework is asked.
    pub(super) fn of_value(
        &mut self,
        scope: &Rc<Scope<'p>>,
        receiver: &Value<'p>,
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Option<Done<'p>> {
        if let Some(done) = self.of_anything(scope, receiver, name, arguments, span, framework) {
            return Some(done);
        }
        let unknown = Value::Unknown(span);
        Some(match receiver {
            Value::Object(Object::Own | Object::Connection | Object::Table(_))
            | Value::Object(Object::Direction)
            | Value::Class(_) => return None,
            Value::Object(Object::Environment) => Ok(unknown),
            Value::Unknown(at) => self.without_effect(*at, arguments, framework),
            Value::Block(block) if matches!(name, "call" | "()" | "[]" | "yield") => {
                self.block(block, arguments.list.clone(), framework)
            }
            Value::List(items) => self.of_list(items, name, arguments, span, framework),
            Value::Map(pairs) => self.of_map(pairs, name, arguments, span, framework),
            Value::Text(text) => Ok(of_text(text, name, arguments, self.words).unwrap_or(unknown)),
            Value::Number(number) => self.of_number(number, name, arguments, span, framework),
            Value::Pattern(pattern) => Ok(match (name, arguments.first()) {
                ("=~" | "match?" | "match" | "===", Some(Value::Text(text))) => {
                    Value::Boolean(pattern.is_match(text))
                }
                _ => unknown,
            }),
            Value::Nil | Value::Boolean(_) | Value::Block(_) => Ok(match (receiver, name) {
                (Value::Nil, "to_a") => Value::List(Vec::new()),
                (Value::Nil, "to_i") => Value::number(0),
                (Value::Nil, _) => Value::Nil,
                _ => unknown,
            }),
        })
    }

    /// The block of a call on something unknown may run or not, with whatever values.
    fn without_effect(
        &mut self,
        at: Span,
        arguments: &Arguments<'p>,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        if let Some(block) = &arguments.block {
            framework.unsure();
            let values = vec![Value::Unknown(at), Value::Unknown(at)];
            let left = self.block(block, values, framework);
            framework.sure(at, false);
            if let Err(Stop::Exhausted) = left {
                return Err(Stop::Exhausted);
            }
        }
        Ok(Value::Unknown(at))
    }

    fn of_anything(
        &mut self,
        scope: &Rc<Scope<'p>>,
        receiver: &Value<'p>,
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Option<Done<'p>> {
        let known = |answer: Option<bool>| Ok(answer.map_or(Value::Unknown(span), Value::Boolean));
        let compared = |other: &Value<'p>| receiver.equals(other);
        Some(match (name, arguments.first()) {
            ("==" | "eql?" | "equal?", Some(other)) => known(compared(other)),
            ("!=", Some(other)) => known(compared(other).map(|same| !same)),
            ("===", Some(other)) if !matches!(receiver, Value::Pattern(_) | Value::Class(_)) => {
                known(compared(other))
            }
            ("nil?", None) => {
                known((!receiver.is_unknown()).then_some(matches!(receiver, Value::Nil)))
            }
            ("present?" | "blank?", None) => {
                known(is_blank(receiver).map(|blank| blank == (name == "blank?")))
            }
            ("presence", None) => Ok(match is_blank(receiver) {
                Some(true) => Value::Nil,
                Some(false) => receiver.clone(),
                None => Value::Unknown(span),
            }),
            ("in?", Some(Value::List(items))) => known(contains(items, receiver)),
            ("tap", None) => {
                let block = arguments.block.clone()?;
                if let Err(stop) = self.block(&block, vec![receiver.clone()], framework) {
                    return Some(Err(stop));
                }
                Ok(receiver.clone())
            }
            ("then" | "yield_self", None) => {
                let block = arguments.block.clone()?;
                self.block(&block, vec![receiver.clone()], framework)
            }
            ("send" | "public_send" | "try" | "__send__", Some(method)) => {
                let method = method.as_text()?;
                let mut rest = arguments.clone();
                rest.list.remove(0);
                self.method(scope, Some(receiver.clone()), &method, rest, span, framework)
            }
            (word, None) if SELF.contains(&word) => Ok(receiver.clone()),
            ("to_s" | "to_sym" | "name" | "to_str" | "inspect", None) => match receiver {
                Value::Nil => Ok(Value::text("")),
                Value::Boolean(value) => Ok(Value::text(value.to_string())),
                Value::Text(_) | Value::Number(_) | Value::Class(_) => {
                    Ok(Value::Text(receiver.as_text()?))
                }
                _ => return None,
            },
            _ => return None,
        })
    }

    fn of_number(
        &mut self,
        number: &SmolStr,
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let unknown = Ok(Value::Unknown(span));
        let left = match number.parse::<i64>() {
            Ok(left) => left,
            Err(_) => return unknown,
        };
        match (name, arguments.first()) {
            ("to_i" | "to_int" | "abs" | "bytes" | "byte", None) => Ok(Value::number(left)),
            ("kilobytes" | "kilobyte", None) => Ok(Value::number(left.saturating_mul(1 << 10))),
            ("megabytes" | "megabyte", None) => Ok(Value::number(left.saturating_mul(1 << 20))),
            ("gigabytes" | "gigabyte", None) => Ok(Value::number(left.saturating_mul(1 << 30))),
            ("-@" | "-", None) => Ok(Value::number(left.saturating_neg())),
            ("times", None) => match &arguments.block {
                Some(block) if left <= LONGEST => {
                    let numbers = (0..left).map(Value::number).collect::<Vec<_>>();
                    self.each(block, &numbers, framework)
                }
                _ => unknown,
            },
            ("zero?", None) => Ok(Value::Boolean(left == 0)),
            ("..", Some(Value::Number(right))) => match right.parse::<i64>() {
                Ok(right) if right - left <= LONGEST => {
                    Ok(Value::List((left..=right).map(Value::number).collect()))
                }
                _ => unknown,
            },
            (_, Some(Value::Number(right))) => match right.parse::<i64>() {
                Ok(right) => Ok(calculated(name, left, right).unwrap_or(Value::Unknown(span))),
                Err(_) => unknown,
            },
            _ => unknown,
        }
    }

    /// Runs a block once for each value.
    fn each(
        &mut self,
        block: &Block<'p>,
        items: &[Value<'p>],
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        for item in items {
            self.block(block, vec![item.clone()], framework)?;
        }
        Ok(Value::List(items.to_vec()))
    }

    /// What a block makes of each value.
    fn made(
        &mut self,
        block: &Block<'p>,
        items: &[Value<'p>],
        framework: &mut dyn Framework<'p>,
    ) -> Result<Vec<Value<'p>>, Stop<'p>> {
        items.iter().map(|item| self.block(block, vec![item.clone()], framework)).collect()
    }

    /// Those of the values for which a block holds (or does not); `None` where that is not known.
    fn chosen(
        &mut self,
        block: &Block<'p>,
        items: &[Value<'p>],
        wanted: bool,
        framework: &mut dyn Framework<'p>,
    ) -> Result<Option<Vec<Value<'p>>>, Stop<'p>> {
        let mut kept = Vec::new();
        for item in items {
            match self.block(block, vec![item.clone()], framework)?.holds() {
                Some(holds) if holds == wanted => kept.push(item.clone()),
                Some(_) => {}
                None => return Ok(None),
            }
        }
        Ok(Some(kept))
    }

    fn of_list(
        &mut self,
        items: &[Value<'p>],
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let Some(block) = &arguments.block else {
            return Ok(of_plain_list(items, name, &arguments.list).unwrap_or(Value::Unknown(span)));
        };
        let list = |found: Option<Vec<Value<'p>>>| found.map_or(Value::Unknown(span), Value::List);
        Ok(match name {
            "each" | "reverse_each" | "find_each" | "each_entry" => {
                return self.each(block, items, framework);
            }
            "each_with_index" | "each.with_index" => {
                for (at, item) in items.iter().enumerate() {
                    self.block(block, vec![item.clone(), Value::number(at as i64)], framework)?;
                }
                Value::List(items.to_vec())
            }
            "map" | "collect" => Value::List(self.made(block, items, framework)?),
            "flat_map" => {
                let made = self.made(block, items, framework)?;
                Value::List(flattened(&made, 1))
            }
            "filter_map" => {
                let made = self.made(block, items, framework)?;
                match made.iter().any(Value::is_unknown) {
                    true => Value::Unknown(span),
                    false => {
                        let holds = |value: &Value<'p>| value.holds() == Some(true);
                        Value::List(made.into_iter().filter(holds).collect())
                    }
                }
            }
            "select" | "filter" => list(self.chosen(block, items, true, framework)?),
            "reject" => list(self.chosen(block, items, false, framework)?),
            "find" | "detect" => match self.chosen(block, items, true, framework)? {
                Some(found) => found.into_iter().next().unwrap_or(Value::Nil),
                None => Value::Unknown(span),
            },
            "any?" | "all?" | "none?" => match self.chosen(block, items, true, framework)? {
                Some(found) => Value::Boolean(match name {
                    "any?" => !found.is_empty(),
                    "all?" => found.len() == items.len(),
                    _ => found.is_empty(),
                }),
                None => Value::Unknown(span),
            },
            "zip" => {
                let zipped = of_plain_list(items, "zip", &arguments.list);
                match zipped {
                    Some(Value::List(pairs)) => return self.each(block, &pairs, framework),
                    _ => Value::Unknown(span),
                }
            }
            "to_h" | "index_with" | "index_by" => {
                let made = self.made(block, items, framework)?;
                let pairs = items.iter().zip(made).map(|(item, made)| match (name, made) {
                    ("to_h", Value::List(pair)) => {
                        let mut pair = pair.into_iter();
                        Some((pair.next()?, pair.next()?))
                    }
                    ("index_with", made) => Some((item.clone(), made)),
                    ("index_by", made) => Some((made, item.clone())),
                    _ => None,
                });
                pairs.collect::<Option<Vec<_>>>().map_or(Value::Unknown(span), Value::Map)
            }
            _ => return self.without_effect(span, arguments, framework),
        })
    }

    fn of_map(
        &mut self,
        pairs: &[(Value<'p>, Value<'p>)],
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let unknown = Value::Unknown(span);
        let Some(block) = &arguments.block else {
            return Ok(of_plain_map(pairs, name, arguments).unwrap_or(unknown));
        };
        let both = |(key, value): &(Value<'p>, Value<'p>)| vec![key.clone(), value.clone()];
        Ok(match name {
            "each" | "each_pair" => {
                for pair in pairs {
                    self.block(block, both(pair), framework)?;
                }
                Value::Map(pairs.to_vec())
            }
            "each_with_index" => {
                for (at, pair) in pairs.iter().enumerate() {
                    let values = vec![Value::List(both(pair)), Value::number(at as i64)];
                    self.block(block, values, framework)?;
                }
                Value::Map(pairs.to_vec())
            }
            "each_key" | "each_value" => {
                for (key, value) in pairs {
                    let value = if name == "each_key" { key } else { value };
                    self.block(block, vec![value.clone()], framework)?;
                }
                Value::Map(pairs.to_vec())
            }
            "map" | "collect" | "flat_map" => {
                let mut made = Vec::with_capacity(pairs.len());
                for pair in pairs {
                    made.push(self.block(block, both(pair), framework)?);
                }
                Value::List(if name == "flat_map" { flattened(&made, 1) } else { made })
            }
            "select" | "filter" | "reject" => {
                let mut kept = Vec::new();
                for pair in pairs {
                    match self.block(block, both(pair), framework)?.holds() {
                        Some(holds) if holds == (name != "reject") => kept.push(pair.clone()),
                        Some(_) => {}
                        None => return Ok(unknown),
                    }
                }
                Value::Map(kept)
            }
            "transform_values" | "transform_keys" => {
                let mut made = Vec::with_capacity(pairs.len());
                for (key, value) in pairs {
                    made.push(match name {
                        "transform_values" => {
                            (key.clone(), self.block(block, vec![value.clone()], framework)?)
                        }
                        _ => (self.block(block, vec![key.clone()], framework)?, value.clone()),
                    });
                }
                Value::Map(made)
            }
            _ => return self.without_effect(span, arguments, framework),
        })
    }
}

/// A pattern of the language, with the letters behind it.
pub(super) fn pattern<'p>(text: &str, flags: &str) -> Option<Value<'p>> {
    let text = text.replace("\\A", "^").replace("\\z", "$").replace("\\Z", "$").replace("\\/", "/");
    let text = text.replace("\\h", "[0-9a-fA-F]");
    let mut builder = RegexBuilder::new(&text);
    builder.case_insensitive(flags.contains('i')).dot_matches_new_line(flags.contains('m'));
    Some(Value::Pattern(Rc::new(builder.build().ok()?)))
}

fn is_blank(value: &Value<'_>) -> Option<bool> {
    Some(match value {
        Value::Unknown(_) => return None,
        Value::Nil | Value::Boolean(false) => true,
        Value::Text(text) => text.trim().is_empty(),
        Value::List(items) => items.is_empty(),
        Value::Map(pairs) => pairs.is_empty(),
        _ => false,
    })
}

/// Whether a list has a value, where that is known.
fn contains<'p>(items: &[Value<'p>], wanted: &Value<'p>) -> Option<bool> {
    let mut all_known = true;
    for item in items {
        match item.equals(wanted) {
            Some(true) => return Some(true),
            Some(false) => {}
            None => all_known = false,
        }
    }
    all_known.then_some(false)
}

fn flattened<'p>(items: &[Value<'p>], depth: u32) -> Vec<Value<'p>> {
    let spread = |item: &Value<'p>| match item {
        Value::List(inner) if depth > 0 => flattened(inner, depth - 1),
        other => vec![other.clone()],
    };
    items.iter().flat_map(spread).collect()
}

fn calculated<'p>(operator: &str, left: i64, right: i64) -> Option<Value<'p>> {
    Some(match operator {
        "+" => Value::number(left.checked_add(right)?),
        "-" => Value::number(left.checked_sub(right)?),
        "*" => Value::number(left.checked_mul(right)?),
        "/" => Value::number(left.checked_div_euclid(right)?),
        "%" => Value::number(left.checked_rem_euclid(right)?),
        "**" => Value::number(left.checked_pow(u32::try_from(right).ok()?)?),
        "<" => Value::Boolean(left < right),
        "<=" => Value::Boolean(left <= right),
        ">" => Value::Boolean(left > right),
        ">=" => Value::Boolean(left >= right),
        _ => return None,
    })
}

/// `format("%02d", 3)`: texts, and numbers with zeros before them.
fn formatted<'p>(arguments: &[Value<'p>]) -> Option<Value<'p>> {
    let (form, values) = arguments.split_first()?;
    let form = form.as_text()?;
    let place = Regex::new(r"%(0?)(\d*)([sd%])").ok()?;
    let mut values = values.iter();
    let (mut text, mut from) = (String::new(), 0);
    for found in place.captures_iter(&form) {
        let whole = found.get(0)?;
        text.push_str(&form[from..whole.start()]);
        from = whole.end();
        if &found[3] == "%" {
            text.push('%');
            continue;
        }
        let value = values.next()?.as_text()?;
        let width: usize = found[2].parse().unwrap_or(0);
        let fill = if found[1].is_empty() { " " } else { "0" };
        text.push_str(&fill.repeat(width.saturating_sub(value.chars().count())));
        text.push_str(&value);
    }
    text.push_str(&form[from..]);
    (!form[from..].contains('%')).then(|| Value::text(text))
}

fn of_text<'p>(
    text: &SmolStr,
    name: &str,
    arguments: &Arguments<'p>,
    words: &Inflections,
) -> Option<Value<'p>> {
    let first = arguments.first();
    let given = first.and_then(Value::as_text);
    if first.is_none() {
        return of_text_alone(text, name, words);
    }
    Some(match (name, first?, given) {
        ("split", _, Some(by)) => {
            let parts = text.split(by.as_str()).map(Value::text).collect::<Vec<_>>();
            // Empty ones at the end are left out.
            let end = parts.iter().rposition(|part| part.as_text().is_some_and(|t| !t.is_empty()));
            Value::List(parts[..end.map_or(0, |at| at + 1)].to_vec())
        }
        ("start_with?" | "starts_with?", ..) => Value::Boolean(
            arguments.list.iter().filter_map(Value::as_text).any(|by| text.starts_with(&*by)),
        ),
        ("end_with?" | "ends_with?", ..) => Value::Boolean(
            arguments.list.iter().filter_map(Value::as_text).any(|by| text.ends_with(&*by)),
        ),
        ("include?", _, Some(part)) => Value::Boolean(text.contains(part.as_str())),
        ("+" | "concat", Value::Text(more), _) => Value::text(format!("{text}{more}")),
        ("*", Value::Number(count), _) => {
            let count = count.parse::<usize>().ok().filter(|count| count * text.len() < 100_000)?;
            Value::text(text.repeat(count))
        }
        ("%", Value::List(values), _) => {
            let all = std::iter::once(Value::Text(text.clone())).chain(values.iter().cloned());
            formatted(&all.collect::<Vec<_>>())?
        }
        ("%", value, _) => formatted(&[Value::Text(text.clone()), value.clone()])?,
        ("delete_prefix", _, Some(part)) => {
            Value::text(text.strip_prefix(part.as_str()).unwrap_or(text))
        }
        ("delete_suffix" | "chomp", _, Some(part)) => {
            Value::text(text.strip_suffix(part.as_str()).unwrap_or(text))
        }
        ("tr" | "gsub" | "sub", from, _) => {
            Value::text(replaced(text, name, from, &arguments.list.get(1)?.as_text()?)?)
        }
        ("=~" | "match?" | "match", Value::Pattern(pattern), _) => {
            match (pattern.is_match(text), name) {
                (found, "match?") => Value::Boolean(found),
                (true, _) => Value::number(0),
                (false, _) => Value::Nil,
            }
        }
        ("first", Value::Number(count), _) => {
            Value::text(text.chars().take(count.parse().ok()?).collect::<String>())
        }
        ("<" | ">" | "<=" | ">=", Value::Text(other), _) => {
            let order = text.as_str().cmp(other);
            Value::Boolean(match name {
                "<" => order.is_lt(),
                ">" => order.is_gt(),
                "<=" => order.is_le(),
                _ => order.is_ge(),
            })
        }
        _ => return None,
    })
}

/// A text with a part replaced; `None` where what is put in refers to what was found.
fn replaced(text: &str, name: &str, from: &Value<'_>, to: &str) -> Option<String> {
    match (name, from) {
        ("tr", from) => {
            let from = from.as_text()?;
            let one = |letters: &str| letters.chars().count() == 1;
            (one(&from) && to.chars().count() <= 1).then(|| text.replace(from.as_str(), to))
        }
        (_, Value::Text(from)) => {
            let count = if name == "sub" { 1 } else { usize::MAX };
            Some(text.replacen(from.as_str(), to, count))
        }
        (_, Value::Pattern(pattern)) => {
            let plain = regex::NoExpand((!to.contains('\\')).then_some(to)?);
            let count = if name == "sub" { 1 } else { 0 };
            Some(pattern.replacen(text, count, plain).into_owned())
        }
        _ => None,
    }
}

fn of_text_alone<'p>(text: &SmolStr, name: &str, words: &Inflections) -> Option<Value<'p>> {
    let squished = || text.split_whitespace().collect::<Vec<_>>().join(" ");
    Some(match name {
        "strip" => Value::text(text.trim()),
        "lstrip" => Value::text(text.trim_start()),
        "rstrip" => Value::text(text.trim_end()),
        "chomp" => Value::text(text.strip_suffix('\n').unwrap_or(text)),
        "squish" => Value::text(squished()),
        "downcase" => Value::text(text.to_lowercase()),
        "upcase" => Value::text(text.to_uppercase()),
        "capitalize" | "upcase_first" => {
            let mut letters = text.chars();
            let head = letters.next().into_iter().flat_map(char::to_uppercase);
            let rest = letters.as_str();
            let rest = if name == "capitalize" { rest.to_lowercase() } else { rest.to_owned() };
            Value::text(head.collect::<String>() + &rest)
        }
        "singularize" => Value::text(words.singular(text)),
        "pluralize" => Value::text(words.plural(text)),
        "underscore" => Value::text(words.underscored(text)),
        "camelize" | "camelcase" => Value::text(words.camelized(text)),
        "classify" => Value::text(words.class(text)),
        "tableize" => Value::text(words.plural(&words.underscored(text))),
        "demodulize" => Value::text(text.rsplit("::").next().unwrap_or(text)),
        "constantize" | "safe_constantize" => Value::Class(text.clone()),
        "foreign_key" => Value::text(format!("{}_id", words.underscored(text))),
        "empty?" => Value::Boolean(text.is_empty()),
        "to_i" => {
            let digits: String = text.chars().take_while(char::is_ascii_digit).collect();
            Value::number(digits.parse().unwrap_or(0))
        }
        "length" | "size" => Value::number(text.chars().count() as i64),
        "lines" => Value::List(text.split_inclusive('\n').map(Value::text).collect()),
        "split" => Value::List(text.split_whitespace().map(Value::text).collect()),
        "reverse" => Value::text(text.chars().rev().collect::<String>()),
        _ => return None,
    })
}

fn of_plain_list<'p>(items: &[Value<'p>], name: &str, given: &[Value<'p>]) -> Option<Value<'p>> {
    let all = || items.to_vec();
    Some(match (name, given.first()) {
        ("to_a" | "entries" | "each" | "each_with_index" | "with_index" | "lazy", None) => {
            Value::List(all())
        }
        ("first", None) => items.first().cloned().unwrap_or(Value::Nil),
        ("last", None) => items.last().cloned().unwrap_or(Value::Nil),
        ("first" | "take", Some(count)) => {
            Value::List(items.iter().take(count.as_number()?.try_into().ok()?).cloned().collect())
        }
        ("drop", Some(count)) => {
            Value::List(items.iter().skip(count.as_number()?.try_into().ok()?).cloned().collect())
        }
        ("size" | "length" | "count", None) => Value::number(items.len() as i64),
        ("[]" | "at" | "fetch", Some(at)) => {
            let at = at.as_number()?;
            let at = if at < 0 { items.len() as i64 + at } else { at };
            items.get(usize::try_from(at).ok()?).cloned().unwrap_or(Value::Nil)
        }
        ("empty?" | "none?", None) => Value::Boolean(items.is_empty()),
        ("any?" | "many?", None) => Value::Boolean(items.len() > usize::from(name == "many?")),
        ("include?" | "member?", Some(wanted)) => Value::Boolean(contains(items, wanted)?),
        ("compact", None) => {
            Value::List(items.iter().filter(|i| !matches!(i, Value::Nil)).cloned().collect())
        }
        ("compact_blank", None) => {
            let kept = items.iter().map(|item| Some((item, is_blank(item)?)));
            let kept = kept.collect::<Option<Vec<_>>>()?.into_iter();
            Value::List(kept.filter(|(_, blank)| !blank).map(|(item, _)| item.clone()).collect())
        }
        ("uniq", None) => {
            let mut kept: Vec<Value<'p>> = Vec::new();
            for item in items {
                if !contains(&kept, item)? {
                    kept.push(item.clone());
                }
            }
            Value::List(kept)
        }
        ("flatten", None) => Value::List(flattened(items, 16)),
        ("reverse", None) => Value::List(items.iter().rev().cloned().collect()),
        ("sort", None) => {
            let mut texts: Vec<SmolStr> =
                items.iter().map(Value::as_text).collect::<Option<_>>()?;
            texts.sort();
            Value::List(texts.into_iter().map(Value::Text).collect())
        }
        ("join", by) => {
            let by = by.and_then(Value::as_text).unwrap_or_default();
            let texts: Option<Vec<SmolStr>> = items.iter().map(Value::as_text).collect();
            Value::text(texts?.join(by.as_str()))
        }
        ("to_h", None) => {
            let pairs = items.iter().map(|item| match item {
                Value::List(pair) => pair.first().cloned().zip(pair.get(1).cloned()),
                _ => None,
            });
            Value::Map(pairs.collect::<Option<_>>()?)
        }
        (_, Some(first)) => return of_two_lists(items, name, first, given),
        _ => return None,
    })
}

/// A list and what it is put together with, or taken apart by.
fn of_two_lists<'p>(
    items: &[Value<'p>],
    name: &str,
    first: &Value<'p>,
    given: &[Value<'p>],
) -> Option<Value<'p>> {
    let all = || items.to_vec();
    let without = |others: &[Value<'p>]| {
        let kept = items.iter().map(|item| Some((item, contains(others, item)?)));
        let kept: Option<Vec<_>> = kept.collect();
        let kept = kept?.into_iter().filter(|(_, there)| !there).map(|(item, _)| item.clone());
        Some(Value::List(kept.collect()))
    };
    Some(match (name, Some(first)) {
        ("+" | "concat" | "|" | "union", Some(Value::List(more))) => {
            let mut both = all();
            both.extend(more.iter().cloned());
            if matches!(name, "|" | "union") {
                return of_plain_list(&both, "uniq", &[]);
            }
            Value::List(both)
        }
        ("-" | "difference", Some(Value::List(others))) => without(others)?,
        ("without" | "excluding", Some(_)) => without(given)?,
        ("push" | "append", Some(_)) => {
            let mut longer = all();
            longer.extend(given.iter().cloned());
            Value::List(longer)
        }
        ("zip", Some(Value::List(others))) => {
            let pair = |(at, item): (usize, &Value<'p>)| {
                Value::List(vec![item.clone(), others.get(at).cloned().unwrap_or(Value::Nil)])
            };
            Value::List(items.iter().enumerate().map(pair).collect())
        }
        ("grep", Some(Value::Pattern(pattern))) => {
            let fits =
                |item: &&Value<'p>| item.as_text().is_some_and(|text| pattern.is_match(&text));
            Value::List(items.iter().filter(fits).cloned().collect())
        }
        ("each_slice" | "in_groups_of", Some(size)) => {
            let size: usize = size.as_number()?.try_into().ok().filter(|size| *size > 0)?;
            Value::List(items.chunks(size).map(|part| Value::List(part.to_vec())).collect())
        }
        _ => return None,
    })
}

fn of_plain_map<'p>(
    pairs: &[(Value<'p>, Value<'p>)],
    name: &str,
    arguments: &Arguments<'p>,
) -> Option<Value<'p>> {
    let given = &arguments.list;
    let map = Value::Map(pairs.to_vec());
    let is_named = |key: &Value<'p>, names: &[Value<'p>]| contains(names, key);
    let kept = |names: &[Value<'p>], wanted: bool| {
        let kept = pairs.iter().map(|pair| Some((pair, is_named(&pair.0, names)?)));
        let kept = kept.collect::<Option<Vec<_>>>()?.into_iter();
        Some(Value::Map(
            kept.filter(|(_, is)| *is == wanted).map(|(pair, _)| pair.clone()).collect(),
        ))
    };
    let found = |key: &Value<'p>| key.as_text().and_then(|key| map.entry(&key).cloned());
    Some(match (name, given.first()) {
        ("keys", None) => Value::List(pairs.iter().map(|(key, _)| key.clone()).collect()),
        ("values", None) => Value::List(pairs.iter().map(|(_, value)| value.clone()).collect()),
        (
            "to_h"
            | "to_hash"
            | "symbolize_keys"
            | "stringify_keys"
            | "with_indifferent_access"
            | "compact_blank",
            None,
        ) => map,
        ("compact", None) => {
            let filled = pairs.iter().filter(|(_, value)| !matches!(value, Value::Nil));
            Value::Map(filled.cloned().collect())
        }
        ("to_a", None) => {
            let pair = |(key, value): &(Value<'p>, Value<'p>)| {
                Value::List(vec![key.clone(), value.clone()])
            };
            Value::List(pairs.iter().map(pair).collect())
        }
        ("[]" | "dig", Some(key)) if given.len() == 1 => found(key).unwrap_or(Value::Nil),
        ("fetch", Some(key)) => found(key).or_else(|| given.get(1).cloned())?,
        ("key?" | "has_key?" | "include?" | "member?", Some(key)) => {
            Value::Boolean(found(key).is_some())
        }
        ("empty?", None) => Value::Boolean(pairs.is_empty()),
        ("any?", None) => Value::Boolean(!pairs.is_empty()),
        ("size" | "length" | "count", None) => Value::number(pairs.len() as i64),
        ("merge" | "reverse_merge" | "deep_merge", _) => {
            let mut other: Vec<(Value<'p>, Value<'p>)> = Vec::new();
            for map in given {
                match map {
                    Value::Map(more) => other.extend(more.iter().cloned()),
                    _ => return None,
                }
            }
            let named = arguments.named.iter();
            other.extend(named.map(|(key, value)| (Value::Text(key.clone()), value.clone())));
            let (first, last) = match name {
                "reverse_merge" => (other, pairs.to_vec()),
                _ => (pairs.to_vec(), other),
            };
            Value::Map(merged(first, last))
        }
        ("slice", Some(_)) => kept(given, true)?,
        ("except" | "without", Some(_)) => kept(given, false)?,
        ("invert", None) => {
            Value::Map(pairs.iter().map(|(key, value)| (value.clone(), key.clone())).collect())
        }
        _ => return None,
    })
}

/// Pairs of two maps; the later one's values count.
fn merged<'p>(
    mut first: Vec<(Value<'p>, Value<'p>)>,
    last: Vec<(Value<'p>, Value<'p>)>,
) -> Vec<(Value<'p>, Value<'p>)> {
    for (key, value) in last {
        match first.iter_mut().find(|(known, _)| known.equals(&key) == Some(true)) {
            Some(known) => known.1 = value,
            None => first.push((key, value)),
        }
    }
    first
}
