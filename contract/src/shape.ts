import Joi from 'joi';

// One schema both checks what comes in and gives its type to server and pages.

/** The type of the values that a schema accepts. */
export type Typed<S> = S extends Joi.AnySchema ? NonNullable<S['~standard']['types']>['output'] : never;

/** Marks a field that may be missing. */
export interface Optional<S extends Joi.AnySchema = Joi.AnySchema> {
  readonly mayMiss: S;
}
export const optional = <S extends Joi.AnySchema>(schema: S): Optional<S> => ({ mayMiss: schema });

/** The fields of a shape. A field is required unless it is `optional`. */
export type Fields = Readonly<Record<string, Joi.AnySchema | Optional>>;

type OptionalKeys<F> = { [K in keyof F]: F[K] extends Optional ? K : never }[keyof F];
type Flat<T> = { [K in keyof T]: T[K] };
/** The type of an object with these fields. */
export type TypedFields<F> = Flat<
  { -readonly [K in Exclude<keyof F, OptionalKeys<F>>]: Typed<F[K]> } & {
    -readonly [K in OptionalKeys<F>]?: F[K] extends Optional<infer S> ? Typed<S> : never;
  }
>;

const isOptional = (field: Joi.AnySchema | Optional): field is Optional => !Joi.isSchema(field);

/** An object with these fields and no others. */
export const shape = <const F extends Fields>(fields: F): Joi.ObjectSchema<TypedFields<F>> =>
  Joi.object<TypedFields<F>>(
    Object.fromEntries(
      Object.entries(fields).map(([key, field]) => [
        key,
        isOptional(field) ? field.mayMiss.optional() : field.required(),
      ]),
    ) as Joi.SchemaMap<TypedFields<F>>,
  );

/** Exactly the fields of a type that is declared elsewhere. */
type FieldsOf<T> = {
  readonly [K in keyof T]-?: object extends Pick<T, K>
    ? Optional<Joi.AnySchema<Exclude<T[K], undefined>>>
    : Joi.AnySchema<T[K]>;
};
/** Schema of a type that is declared elsewhere, such as a result of core. A missing field or an extra one doesn't compile. */
export const shapeOf =
  <T extends object>() =>
  (fields: FieldsOf<T>): Joi.ObjectSchema<T> =>
    shape(fields as Fields) as Joi.ObjectSchema<T>;

/** Adds fields to a shape. */
export const more = <T, const F extends Fields>(
  base: Joi.ObjectSchema<T>,
  fields: F,
): Joi.ObjectSchema<Flat<T & TypedFields<F>>> => base.concat(shape(fields) as never) as never;

/** A list of values of one schema. */
export const list = <S extends Joi.AnySchema>(of: S): Joi.ArraySchema<Typed<S>[]> =>
  Joi.array<Typed<S>[]>().items(of) as Joi.ArraySchema<Typed<S>[]>;

/** A value that may also be null. */
export const maybe = <S extends Joi.AnySchema>(schema: S): Joi.AnySchema<Typed<S> | null> =>
  schema.allow(null);

/** Exactly one of several values. */
export const oneOf = <const V extends readonly (string | number | boolean | null)[]>(
  ...values: V
): Joi.AnySchema<V[number]> => Joi.valid(...values);

/** One of several shapes. */
export const either = <S extends readonly Joi.AnySchema[]>(
  ...shapes: S
): Joi.AlternativesSchema<Typed<S[number]>> => Joi.alternatives<Typed<S[number]>>().try(...shapes);

/** Values by names that aren't known beforehand. */
export const record = <S extends Joi.AnySchema>(
  of: S,
  names: Joi.StringSchema = Joi.string(),
): Joi.ObjectSchema<Record<string, Typed<S>>> => Joi.object<Record<string, Typed<S>>>().pattern(names, of);

/** Query, body and reply of a route. A reply of null means 204. Only bodies and replies are checked here: each route checks its own query. */
export interface RouteShape {
  query?: Joi.AnySchema;
  body?: Joi.AnySchema;
  reply: Joi.AnySchema | null;
}
export type RouteShapes = Readonly<Record<string, RouteShape>>;
/** Types of a route's query, body and reply. */
export type TypedRoute<S> = (S extends { query: infer Q } ? { query: Typed<Q> } : unknown) &
  (S extends { body: infer B } ? { body: Typed<B> } : unknown) & {
    reply: S extends { reply: infer P extends Joi.AnySchema } ? Typed<P> : undefined;
  };
