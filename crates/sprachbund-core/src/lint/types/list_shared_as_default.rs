use crate::diagnostic::Severity;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "list-shared-as-default",
    severity: Severity::Warning,
    // Seen in Django 5.2.19: two records have one and the same list.
    finds: "a list or a map as the application's default, which all records then share",
    consequence: "One record appends to it, and all records that are made later begin with what \
                  was appended. It goes away when the program starts again, so that nobody can \
                  repeat it.",
    sql: "INSERT INTO vessel (papers) VALUES ('[\"pilot exemption\"]');  -- of another vessel, \
          made earlier in the same process",
    cure: "Name a function that makes a new one (`list`, `dict`).",
    exception: "When nothing ever changes the value in place.",
    raised: &["shared-default"],
    wrong: django("class Vessel(models.Model):\n    papers = models.JSONField(default=[])\n"),
    right: django("class Vessel(models.Model):\n    papers = models.JSONField(default=list)\n"),
    ..PLAIN
};
