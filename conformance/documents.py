"""Facts of documents: what a schema file of `sprachbund parse` promises, and what Mongoose itself reports."""

import json

# What Mongoose calls the types.
TYPES = {
    "text": "String", "double precision": "Number", "integer": "Int32", "bigint": "BigInt", "numeric": "Decimal128", "boolean": "Boolean",
    "timestamp(3) with time zone": "Date", "binary": "Buffer", "uuid": "UUID", "object id": "ObjectId", "binary json": "Mixed",
}
SHAPES = {"one": "document", "many": "documents", "keyed": "documents by key"}
RULES = {"min_value": "min", "max_value": "max", "min_length": "minlength", "max_length": "maxlength"}


def promised(schema):
    """Facts of every collection of a schema."""
    entities = {entity["id"]: entity for entity in schema["entities"]}
    enums = {enum["name"]: [member["value"] for member in enum["members"]] for enum in schema["enums"]}
    facts = set()
    for entity in schema["entities"]:
        if (entity["inherits"] or {}).get("how") == "same-table":
            continue
        collection, prefix = place(entity, entities)
        owned = entity["owned_by"]
        if owned and owned["shape"] != "part":
            about = entity.get("extras", {}).get("path", {})
            facts |= path(collection, prefix[:-1], {
                "type": SHAPES[owned["shape"]],
                "required": about.get("required") is True or (isinstance(about.get("required"), list) and about["required"][0] is True),
                "default": whole_default(owned["shape"], about),
            })
        for field in entity["fields"]:
            facts |= path(collection, prefix + field["column"], of_field(field, entity, entities, enums))
        facts |= indexes(collection, prefix, entity)
        if not owned:
            facts.add((collection, "exists", "", ""))
    return facts


def whole_default(shape, about):
    """A list is empty where nothing else is said."""
    if "default" in about:
        said = about["default"]
        return None if said is None else "made" if isinstance(said, dict) and "code" in said else [said]
    return [[]] if shape == "many" else None


def place(entity, entities):
    """The collection of an entity, and where it stands in its documents."""
    owned = entity["owned_by"]
    if not owned:
        return entity["table"], ""
    collection, prefix = place(entities[owned["entity"]], entities)
    return collection, prefix + owned["path"] + "."


def of_field(field, entity, entities, enums):
    about = {"type": kind(field), "required": field["required_on_input"], "default": default(field)}
    for rule in field["rules"]:
        if rule["rule"] in RULES:
            about[RULES[rule["rule"]]] = rule["value"]
    if field["choices"]:
        # A path of texts casts what it may be.
        about["enum"] = [str(value) for value in enums[field["choices"]]] if about["type"] == "String" else enums[field["choices"]]
    for relation in entity["relations"]:
        if relation["columns"] == [field["column"]]:
            target = entities.get(relation["target"])
            about["ref"] = (target["name"] if target else relation["target"].rsplit(".", 1)[-1]).lower()
    # A condition that a function decides is no requirement.
    return about


def kind(field):
    of_map = field.get("extras", {}).get("map")
    if of_map:
        return "Map of " + (of_map if isinstance(of_map, str) else "Array")
    word, lists = field["type"], 0
    while word.endswith(" array"):
        word, lists = word.removesuffix(" array"), lists + 1
    return "Array of " * lists + TYPES.get(word, word)


def default(field):
    value = field["defaults"]["application"]
    # Mongoose keeps times without a default of the path.
    if value is None or field["purpose"] in ("creation-time", "update-time"):
        return None
    if "literal" not in value:
        return "made"
    literal = value["literal"]
    # The language has no such number: it is written as a text, and cast.
    big = isinstance(literal, int) and not isinstance(literal, bool) and abs(literal) > 2**53
    return [str(literal) if big else literal]


def path(collection, at, about):
    return {(collection, at, aspect, plain(value)) for aspect, value in about.items() if value not in (None, False)}


def indexes(collection, prefix, entity):
    facts = set()
    required = {field["column"] for field in entity["fields"] if field["required_on_input"]} | set((entity["primary_key"] or {}).get("columns", []))
    for unique in entity["uniques"]:
        keys = [[prefix + column, 1] for column in unique["columns"]]
        facts.add(index(collection, keys, True, sparse(unique, unique["columns"], required), unique["name"], None, unique.get("extras", {})))
    for one in entity["indexes"]:
        methods = one.get("extras", {}).get("methods") or [one["method"]] * len(one["parts"])
        keys = [[prefix + part["column"], method or (-1 if part["descending"] else 1)] for part, method in zip(one["parts"], methods)]
        own = sparse(one, one["columns"], required)
        facts.add(index(collection, keys, one["unique"], own, one["name"], one["condition"], one.get("extras", {})))
    for keys, *options in entity.get("extras", {}).get("indexes", []):
        options = options[0] if options else {}
        facts.add(index(collection, [[prefix + key, way] for key, way in keys.items()], options.get("unique", False), options.get("sparse", False), options.get("name"), None, options))
    return facts


def sparse(one, columns, required):
    said = one.get("extras", {}).get("sparse") is True
    return said or (one.get("unique", True) and not one["nulls_not_distinct"] and len(columns) == 1 and not set(columns) <= required)


def index(collection, keys, unique, sparse, name, condition, extras):
    about = {"keys": keys, "unique": bool(unique), "sparse": bool(sparse), "name": name, "filtered": condition is not None or "partialFilterExpression" in extras, "seconds": extras.get("expireAfterSeconds")}
    return (collection, "index", "", plain(about))


def reported(models):
    """Facts of what Mongoose says of its models."""
    required = {}
    for collection, model in models.items():
        required[collection] = {at for at, about in model["paths"].items() if about["required"]} | {"_id"}
    facts = set()
    for collection, model in models.items():
        facts.add((collection, "exists", "", ""))
        for at, about in model["paths"].items():
            about = dict(about)
            about.pop("match", None)
            given = about.pop("default")
            about["default"] = None if given is None else "made" if "made" in given else [given["value"]]
            about["ref"] = (about.get("ref") or "").lower() or None
            about["enum"] = [value for value in about.get("enum") or [] if value is not None] or None
            facts |= path(collection, at, about)
        for keys, options in model["indexes"]:
            unique = bool(options.get("unique"))
            # Of a key that every document has, nothing is left out.
            sparse = bool(options.get("sparse")) and not (unique and {key for key, _ in keys} <= required[collection])
            facts.add(index(collection, keys, unique, sparse, options.get("name"), options.get("partialFilterExpression"), options))
    return facts


def plain(value):
    return json.dumps(numbers(value), sort_keys=True)


def numbers(value):
    """Whole numbers in one form."""
    if isinstance(value, bool):
        return value
    if isinstance(value, float) and value.is_integer():
        return int(value)
    if isinstance(value, list):
        return [numbers(each) for each in value]
    return {key: numbers(each) for key, each in value.items()} if isinstance(value, dict) else value
