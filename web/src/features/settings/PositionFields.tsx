import {
  type Control,
  type FieldValues,
  type Path,
  type UseFormRegister,
  useFormState,
  useWatch,
} from "react-hook-form";
import { PlaceMap, useLayers } from "@/features/waters";
import { useHere } from "@/session";
import { Field } from "@/ui/Field";
import { readDegrees } from "@/ui/words/read-degrees";

/** Where something is, as it was typed: both figures or none. */
export interface Position {
  latitude: string;
  longitude: string;
}

const AXES = ["latitude", "longitude"] as const;
const figure = (read: ReturnType<typeof readDegrees>) => (read && "value" in read ? read.value : null);

/** The figures of a position that was typed; null where none was. */
export function positionOf({ latitude, longitude }: Position) {
  return {
    latitude: figure(readDegrees(latitude, "latitude")),
    longitude: figure(readDegrees(longitude, "longitude")),
  };
}

/** A position as a form begins with it. */
export const typedPosition = (at: { latitude: number | null; longitude: number | null }): Position => ({
  latitude: at.latitude === null ? "" : String(at.latitude),
  longitude: at.longitude === null ? "" : String(at.longitude),
});

interface Props<Form extends FieldValues> {
  register: UseFormRegister<Form>;
  control: Control<Form>;
  /** Of the server. */
  errors: Record<string, string | undefined>;
}

/** Latitude and longitude of a form, as people write them. */
export function PositionFields<Form extends Position>({ register, control, errors }: Props<Form>) {
  const { errors: typed } = useFormState({ control });
  return AXES.map((axis) => (
    <Field
      key={axis}
      label={axis === "latitude" ? "Latitude" : "Longitude"}
      unit={axis === "latitude" ? "°, north" : "°, east"}
      placeholder="optional"
      maxLength={30}
      error={(typed[axis as Path<Form>]?.message as string | undefined) ?? errors[axis]}
      {...register(axis as Path<Form>, {
        validate: (text) => {
          const read = readDegrees(String(text), axis);
          return read && "message" in read ? read.message : true;
        },
      })}
    />
  ));
}

/** Where the position lies that is being typed; nothing before both figures can be read. */
export function PositionOnMap<Form extends Position>({ control, water }: { control: Control<Form>; water?: string }) {
  const { membership } = useHere();
  const layers = useLayers(membership.programme);
  const [latitude, longitude] = useWatch({ control, name: ["latitude", "longitude"] as Path<Form>[] });
  const typed = positionOf({ latitude: String(latitude ?? ""), longitude: String(longitude ?? "") });
  if (typed.latitude === null || typed.longitude === null) return null;
  return (
    <div className="col-span-full">
      <PlaceMap point={[typed.longitude, typed.latitude]} layers={layers} water={water} />
    </div>
  );
}
