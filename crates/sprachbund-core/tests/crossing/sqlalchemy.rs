//! Constructs that cross to SQLAlchemy and from it.

use super::Crossing;

pub(crate) const DJANGO: &[Crossing] = &[
    (
        "a = models.DateTimeField(auto_now=True)",
        "a: Mapped[datetime.datetime] = mapped_column(\nsa.DateTime(timezone=True),\n\
         default=sa.func.now(),\nonupdate=sa.func.now(),\n)",
        "respelled: SQLAlchemy has no word for times of creation and update",
    ),
    (
        "a = models.CharField(max_length=9, choices=[('x', 'X')], default='x')",
        "a: Mapped[str] = mapped_column(sa.Enum(\"x\", native_enum=False, length=9), \
             default=\"x\")",
        "dropped: members of an enumeration have no texts to show",
    ),
    (
        "a = models.PositiveSmallIntegerField(db_default=3)",
        "__table_args__ = (sa.CheckConstraint('\"a\" >= 0'),)\n\
         a: Mapped[int] = mapped_column(sa.SmallInteger, server_default=sa.text(\"3\"))",
        "",
    ),
    (
        "a = models.ForeignKey('T', on_delete=models.CASCADE, related_name='bs', null=True)",
        "a_id: Mapped[Optional[int]] = mapped_column(\n\
         sa.ForeignKey(\"harbour_t.id\", deferrable=True, initially=\"DEFERRED\"),\n\
         index=True,\n)\na: Mapped[Optional[\"T\"]] = relationship(back_populates=\"bs\", \
         remote_side=\"T.id\")\nbs: Mapped[list[\"T\"]] = relationship(back_populates=\"a\", \
         cascade=\"all, delete\")",
        "",
    ),
    (
        "a = models.ManyToManyField('T', related_name='+')",
        "a: Mapped[list[\"T\"]] = relationship(\nsecondary=\"harbour_t_a\",\n\
         primaryjoin=\"T.id == harbour_t_a.c.from_t_id\",\n\
         secondaryjoin=\"T.id == harbour_t_a.c.to_t_id\",\n)\nharbour_t_a = sa.Table(\n\
         \"harbour_t_a\",\nBase.metadata,\nsa.Column(\"id\", sa.Integer, sa.Identity(), \
         primary_key=True),\nsa.Column(\"from_t_id\", sa.ForeignKey(\"harbour_t.id\", \
         deferrable=True, initially=\"DEFERRED\"), nullable=False, index=True),\n\
         sa.Column(\"to_t_id\", sa.ForeignKey(\"harbour_t.id\", deferrable=True, \
         initially=\"DEFERRED\"), nullable=False, index=True),\n\
         sa.UniqueConstraint(\"from_t_id\", \"to_t_id\"),\n)",
        "dropped: SQLAlchemy has no relation that goes both ways at once\n\
         respelled: the rows of a join table go with the records that they join",
    ),
    (
        "a = models.JSONField(default=dict)\nclass Meta:\n    indexes = [models.Index('a', \
         name='a_name_that_django_allows')]",
        "__table_args__ = (sa.Index(\"a_name_that_django_allows\", \"a\"),)\n\
         a: Mapped[Any] = mapped_column(postgresql.JSONB, default=dict)",
        "",
    ),
];

pub(crate) const TO_DJANGO: &[Crossing] = &[
    (
        "a: Mapped[Status]",
        "a = models.CharField(max_length=16, choices=Status.choices)",
        "weakened: Django has no enumeration types of the database\n\
         weakened: members of an enumeration are worth in the code what the database stores",
    ),
    (
        "a: Mapped[datetime.datetime] = mapped_column(default=sa.func.now(), \
             onupdate=sa.func.now())",
        "a = models.DateTimeField(auto_now=True)",
        "respelled: Django has a word for the time of an update\n\
         respelled: Django cannot say `timestamp` on this server",
    ),
    (
        "a: Mapped[Optional[int]] = mapped_column(sa.ForeignKey('t.id', ondelete='CASCADE'))",
        "a = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"+\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"a\",\n)",
        "weakened: Django acts on deletion in the application, not in the database\n\
         added: Django has every foreign key checked at commit",
    ),
    (
        "a: Mapped[int] = mapped_column(onupdate=3)",
        "a = models.IntegerField()",
        "weakened: Django sets no value by itself at an update",
    ),
    (
        "a: Mapped[Optional[int]] = mapped_column(sa.ForeignKey('t.id'))\n\
         up: Mapped[Optional['T']] = relationship(remote_side='T.id', backref=backref('down', \
         cascade='all, delete'))",
        "up = models.ForeignKey(\n\"T\",\non_delete=models.CASCADE,\nrelated_name=\"down\",\n\
         null=True,\nblank=True,\ndb_index=False,\ndb_column=\"a\",\n)",
        "added: Django has every foreign key checked at commit",
    ),
    (
        "a: Mapped[str]\n__table_args__ = \
             (sa.Index('an_index_with_a_name_that_is_too_long', 'a'),)",
        "a = models.CharField()",
        "moved: Django cannot say so long a name of an index",
    ),
];

pub(crate) const TO_TYPEORM_ON_MARIADB: &[Crossing] = &[
    (
        "a: Mapped[float] = mapped_column(sa.Double, server_default=sa.text('0.5'))",
        "@Entity()\n@Column({ type: 'double', default: '0.5' })\na!: number;",
        "",
    ),
    (
        "a: Mapped[int]\nb: Mapped[int]\n__table_args__ = (sa.UniqueConstraint('a', 'b'), \
         sa.Index(None, 'a', 'b'), {'comment': \"it's\"})",
        "@Entity()\n@Unique(['a', 'b'])\n@Index('t_a_b_idx', ['a', 'b'])\n@Column()\n\
         a!: number;\n@Column()\nb!: number;",
        "moved: the comment of the table cannot be said\n\
         added: a second index over the same columns must have a name of its own",
    ),
];
