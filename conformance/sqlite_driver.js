// The interface by which Sequelize speaks to SQLite, over sql.js, which needs no compiler.

const fs = require('node:fs');

let engine;
const open = [];

class Database {
  constructor(place, mode, done) {
    this.filename = place;
    this.database = new engine.Database(fs.existsSync(place) ? fs.readFileSync(place) : undefined);
    open.push(this);
    setImmediate(done, null);
  }

  run(sql, parameters, done) {
    this.query(sql, parameters, done);
  }

  all(sql, parameters, done) {
    this.query(sql, parameters, done);
  }

  query(sql, parameters, done) {
    if (typeof parameters === 'function') [parameters, done] = [undefined, parameters];
    const answer = (...results) => setImmediate(() => done?.call({ lastID: 0, changes: 0 }, ...results));
    try {
      const statement = this.database.prepare(sql);
      if (parameters) statement.bind(parameters);
      const rows = [];
      while (statement.step()) rows.push(statement.getAsObject());
      statement.free();
      answer(null, rows);
    } catch (error) {
      answer(error);
    }
  }

  serialize(work) {
    work();
  }

  close(done) {
    setImmediate(done, null);
  }
}

module.exports = {
  Database,
  OPEN_READWRITE: 2,
  OPEN_CREATE: 4,
  verbose() {
    return this;
  },
  async prepare() {
    engine = await require('sql.js')();
  },
  save() {
    open.forEach(({ filename, database }) => fs.writeFileSync(filename, database.export()));
  },
};
