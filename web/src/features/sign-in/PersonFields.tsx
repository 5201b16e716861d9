import { Field } from "@/ui/Field";

export interface PersonValues {
  name: string;
  username: string;
  password: string;
}

interface Props {
  values: PersonValues;
  onChange: (values: PersonValues) => void;
  errors?: Record<string, string | undefined>;
}

/** A new account: the name for the record, and what one signs in with. */
export function PersonFields({ values, onChange, errors = {} }: Props) {
  const set = (name: keyof PersonValues) => (event: { target: { value: string } }) =>
    onChange({ ...values, [name]: event.target.value });
  return (
    <div className="grid gap-3">
      <Field
        label="Your name, as it will appear in the record"
        autoComplete="name"
        value={values.name}
        maxLength={80}
        required
        error={errors.name}
        onChange={set("name")}
      />
      <Field
        label="Name to sign in with"
        hint="Letters, figures and . @ + - _"
        autoComplete="username"
        autoCapitalize="none"
        value={values.username}
        maxLength={60}
        required
        error={errors.username}
        onChange={set("username")}
      />
      <Field
        label="Password"
        hint="At least 12 characters; a few words are easier to type with wet hands than signs."
        type="password"
        autoComplete="new-password"
        value={values.password}
        maxLength={200}
        required
        error={errors.password}
        onChange={set("password")}
      />
    </div>
  );
}
