import Joi from 'joi';

// Shapes that say themselves what goes through them: one schema is checked at the door and is the type on both sides of it.

/** What a schema lets through. */
export type Typed<S> = S extends Joi.AnySchema ? NonNullable<S['~standard']['types']>['output'] : never;

/** A field that may be missing. */
export interface Optional<S extends Joi.AnySchema = Joi.AnySchema> {
  readonly mayMiss: S;
}
export const optional = <S extends Joi.AnySchema>(schema: S): Optional<S> => ({ mayMiss: schema });

/** The fields of a shape. Each must be there unless it says that it is optional. */
export type Fields = Readonly<Record<string, Joi.AnySchema | Optional>>;

type OptionalKeys<F> = { [K in keyof F]: F[K] extends Optional ? K : never }[keyof F];
type Flat<T> = { [K in keyof T]: T[K] };
/** What a record of fields lets through. */
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

/** The fields that a type from elsewhere wants, no more and no fewer. */
type FieldsOf<T> = {
  readonly [K in keyof T]-?: object extends Pick<T, K>
    ? Optional<Joi.AnySchema<Exclude<T[K], undefined>>>
    : Joi.AnySchema<T[K]>;
};
/** A shape whose type is made elsewhere, such as what core works out: a field that one side has and the other has not does not compile. */
export const shapeOf =
  <T extends object>() =>
  (fields: FieldsOf<T>): Joi.ObjectSchema<T> =>
    shape(fields as Fields) as Joi.ObjectSchema<T>;

/** A shape with more fields. */
export const more = <T, const F extends Fields>(
  base: Joi.ObjectSchema<T>,
  fields: F,
): Joi.ObjectSchema<Flat<T & TypedFields<F>>> => base.concat(shape(fields) as never) as never;

/** A list of what a schema lets through. */
export const list = <S extends Joi.AnySchema>(of: S): Joi.ArraySchema<Typed<S>[]> =>
  Joi.array<Typed<S>[]>().items(of) as Joi.ArraySchema<Typed<S>[]>;

/** What may also be null: it did not come out, or there is none. */
export const maybe = <S extends Joi.AnySchema>(schema: S): Joi.AnySchema<Typed<S> | null> =>
  schema.allow(null);

/** Exactly one of several values, in a way that every description of the schema says. */
export const oneOf = <const V extends readonly (string | number | boolean | null)[]>(
  ...values: V
): Joi.AnySchema<V[number]> => Joi.valid(...values);

/** One of several shapes. */
export const either = <S extends readonly Joi.AnySchema[]>(
  ...shapes: S
): Joi.AlternativesSchema<Typed<S[number]>> => Joi.alternatives<Typed<S[number]>>().try(...shapes);

/** Values by names that are not known beforehand. */
export const record = <S extends Joi.AnySchema>(
  of: S,
  names: Joi.StringSchema = Joi.string(),
): Joi.ObjectSchema<Record<string, Typed<S>>> => Joi.object<Record<string, Typed<S>>>().pattern(names, of);

/** What a route takes and answers; without a reply it answers with nothing. */
export interface RouteShape {
  query?: Joi.AnySchema;
  body?: Joi.AnySchema;
  reply: Joi.AnySchema | null;
}
export type RouteShapes = Readonly<Record<string, RouteShape>>;
/** The types of a route. */
export type TypedRoute<S> = (S extends { query: infer Q } ? { query: Typed<Q> } : unknown) &
  (S extends { body: infer B } ? { body: Typed<B> } : unknown) & {
    reply: S extends { reply: infer P extends Joi.AnySchema } ? Typed<P> : undefined;
  };
