'use strict';
Object.defineProperty(exports, '__esModule', { value: true });
exports.lampSchema = exports.common = void 0;
const mongoose_1 = require('mongoose');
exports.common = { createdBy: { type: String }, source: { type: String, required: true } };
exports.lampSchema = new mongoose_1.Schema({ colour: { type: String, required: true }, range: Number }, { timestamps: { createdAt: 'litAt', updatedAt: false } });
