const mongoose = require('mongoose');
const { Schema, model } = mongoose;

const numbered = new Schema({ _id: Number, name: String }, { collection: 'Numbered things' });
const coded = new Schema({ _id: { type: String, required: true }, name: String });
const made = new Schema({ _id: { type: Schema.Types.ObjectId, auto: true }, name: { type: String, unique: true } });
const bare = new Schema({ _id: Schema.Types.ObjectId, name: String });
const shared = new Schema({ _id: { type: Schema.Types.ObjectId, ref: 'Made' }, note: String });

exports.Numbered = model('Numbered', numbered);
exports.Coded = model('Coded', coded);
exports.Made = model('Made', made);
exports.Bare = model('Bare', bare);
exports.Shared = model('Shared', shared);

// References of every form.
const refersSchema = new Schema({
  made: { type: mongoose.Schema.Types.ObjectId, ref: 'Made' },
  coded: { type: String, ref: 'Coded', required: true },
  numbered: { type: Number, ref: exports.Numbered, unique: true },
  bare: { type: 'ObjectId', ref: () => 'Bare', index: true },
  several: [{ type: Schema.Types.ObjectId, ref: 'Made' }],
  others: { type: [Schema.Types.ObjectId], ref: 'Bare' },
  either: { type: Schema.Types.ObjectId, refPath: 'which' },
  which: String,
  nobody: { type: Schema.Types.ObjectId, ref: 'Nobody' },
});
refersSchema.virtual('logs', { ref: 'DockLog', localField: '_id', foreignField: 'nothing' });
exports.Refers = mongoose.models.Refers || model('Refers', refersSchema);
