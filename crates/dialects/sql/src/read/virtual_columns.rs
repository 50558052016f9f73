//! Columns that PostgreSQL computes when they are read, from 18 on, whether `VIRTUAL` is written or
//! nothing. The parser knows only those that are stored there, so it is given them as such, and
//! their expressions are marked.

use sqlparser::ast::{Expr, FunctionArg, FunctionArgExpr, FunctionArguments};
use sqlparser::keywords::Keyword;
use sqlparser::tokenizer::{Token, TokenWithSpan};

/// The function around the expression of such a column: a name that no statement can hold.
const MARK: &str = "\u{0}virtual";

/// The tokens of a statement, with each virtual column marked and called stored.
pub(super) fn marked(mut tokens: Vec<TokenWithSpan>) -> Vec<TokenWithSpan> {
    if !tokens.iter().any(
        |token| matches!(&token.token, Token::Word(word) if word.keyword == Keyword::GENERATED),
    ) {
        return tokens;
    }
    let said: Vec<usize> =
        (0..tokens.len()).filter(|at| !matches!(tokens[*at].token, Token::Whitespace(_))).collect();
    let is = |place: usize, keyword: Keyword| {
        matches!(said.get(place).map(|at| &tokens[*at].token),
        Some(Token::Word(word)) if word.keyword == keyword)
    };
    let opens = |place: usize| said.get(place).is_some_and(|at| tokens[*at].token == Token::LParen);
    let generated = |place: &usize| {
        is(*place, Keyword::GENERATED)
            && is(place + 1, Keyword::ALWAYS)
            && is(place + 2, Keyword::AS)
            && opens(place + 3)
    };
    let computed: Vec<(usize, usize, Option<usize>)> = (0..said.len())
        .filter(generated)
        .filter_map(|place| {
            let end = closing(&tokens, &said, place + 3)?;
            let word = is(end + 1, Keyword::VIRTUAL).then(|| said[end + 1]);
            (!is(end + 1, Keyword::STORED)).then(|| (said[place + 3], said[end], word))
        })
        .collect();
    // From the last one on, so that places before it stay.
    for (open, close, word) in computed.into_iter().rev() {
        let (first, last) = (tokens[open].span, tokens[close].span);
        let stored = || Token::make_keyword("STORED");
        match word {
            Some(word) => tokens[word].token = stored(),
            None => tokens.insert(close + 1, TokenWithSpan { token: stored(), span: last }),
        }
        tokens.insert(close, TokenWithSpan { token: Token::RParen, span: last });
        let mark = [Token::make_word(MARK, Some('"')), Token::LParen]
            .map(|token| TokenWithSpan { token, span: first });
        tokens.splice(open + 1..open + 1, mark);
    }
    tokens
}

/// The place, among what is said, of the bracket that closes the one at `open`.
fn closing(tokens: &[TokenWithSpan], said: &[usize], open: usize) -> Option<usize> {
    let mut depth = 0_usize;
    (open..said.len()).find(|place| {
        match tokens[said[*place]].token {
            Token::LParen => depth += 1,
            Token::RParen => depth -= 1,
            _ => {}
        }
        depth == 0
    })
}

/// The expression under the mark of a virtual column; `None` where there is no mark.
pub(super) fn unmarked(expression: &Expr) -> Option<&Expr> {
    let Expr::Function(function) = expression else { return None };
    let name = function.name.0.first()?.as_ident().filter(|name| name.value == MARK);
    let FunctionArguments::List(list) = &function.args else { return None };
    match (name, list.args.as_slice()) {
        (Some(_), [FunctionArg::Unnamed(FunctionArgExpr::Expr(inner))]) => Some(inner),
        _ => None,
    }
}
