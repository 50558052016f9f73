//! Django again, and an older release of it.

use super::Crossing;

pub(crate) const AT_HOME: &[Crossing] = &[(
    "a = models.ForeignKey('self', models.CASCADE)\nclass Meta:\n    order_with_respect_to = 'a'",
    "a = models.ForeignKey(\"T\", on_delete=models.CASCADE)\norder_with_respect_to = \"a\"",
    "",
)];

pub(crate) const SQL_TO_4_2: &[Crossing] = &[
    (
        "CREATE TABLE t (a integer, b integer, PRIMARY KEY (a, b));",
        "a = models.IntegerField()\nb = models.IntegerField()\nunique_together = [[\"a\", \"b\"]]",
        "weakened: Django has no key of several columns\nadded: Django has no class without a key",
    ),
    (
        "CREATE TABLE t (id integer PRIMARY KEY); CREATE TABLE q (id integer PRIMARY KEY); \
         CREATE TABLE q_t (q_id integer NOT NULL REFERENCES q, t_id integer NOT NULL \
         REFERENCES t, PRIMARY KEY (q_id, t_id));",
        "id = models.IntegerField(primary_key=True)\nclass Q(models.Model):\n\
         id = models.IntegerField(primary_key=True)\n\
         ts = models.ManyToManyField(T, related_name=\"qs\", through=\"QT\")\ndb_table = \"q\"\n\
         class QT(models.Model):\nq = models.ForeignKey(Q, on_delete=models.DO_NOTHING, \
         related_name=\"q_ts\", db_index=False)\n\
         t = models.ForeignKey(T, on_delete=models.DO_NOTHING, related_name=\"q_ts\", \
         db_index=False)\ndb_table = \"q_t\"\nunique_together = [[\"q\", \"t\"]]",
        "weakened: Django has no key of several columns\n\
         added: the join table `q_t` has a shape that Django would not give it\n\
         added: Django has no class without a key\n\
         added: Django says for each relation what the application does on deletion\n\
         added: Django has every foreign key checked at commit",
    ),
];

pub(crate) const TO_4_2_ON_SQLITE: &[Crossing] = &[(
    "a = models.CharField()",
    "a = models.TextField()",
    "respelled: Django cannot say `varchar` on this server",
)];
