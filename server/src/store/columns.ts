/** Columns of the tables. Sequelize writes into what it is given, so every column gets an object of its own. */
import { DataTypes } from 'sequelize';

export const text = () => ({ type: DataTypes.STRING, allowNull: false });
export const number = () => ({ type: DataTypes.BIGINT, allowNull: false });
export const key = () => ({ type: DataTypes.STRING, primaryKey: true });
export const json = () => ({ type: DataTypes.JSON, allowNull: false });
/** Numbered by the file. */
export const serial = () => ({ type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true });
