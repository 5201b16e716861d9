import { useState } from "react";
import type { Schemas } from "@/api/client";
import { fieldErrors } from "@/api/field-errors";
import { ROLES, usePeople } from "@/features/programme";
import { useHere, useSession } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { formatDay } from "@/ui/words/format";
import { HandedLink } from "./HandedLink";
import { useChangeMember, useForgetMember, useInvite, usePasswordLink, useShutOut, useWithdraw } from "./queries";

type Member = Schemas["Member"];
type Role = Schemas["RoleEnum"];
const ROLE_NAMES = Object.keys(ROLES) as Role[];

/** Who is in the programme, who was, and who is invited. */
export function PeoplePart() {
  const { membership, person, may } = useHere();
  const { data, error } = usePeople(membership.programme);
  const withdraw = useWithdraw(membership.programme);
  const [inviting, setInviting] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="text-muted">Reading who is here...</p>;
  const leads = may("lead");
  const member = data.members.find(({ id }) => id === chosen);
  return (
    <>
      {leads && (
        <Button look="ink" large className="mt-3" onClick={() => setInviting(true)}>
          Invite somebody
        </Button>
      )}
      <table className="mt-3 w-full text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1">Name</th>
            <th>Role</th>
            <th className="max-sm:hidden">Number</th>
            <th className="max-sm:hidden">Here since</th>
            <th>
              <span className="sr-only">Change</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {data.members.map((each) => (
            <tr key={each.id} className={`border-b border-line ${each.left_at ? "text-muted" : ""}`}>
              <td className="py-1.5">
                {each.name}
                <span className="block text-sm text-muted">{each.email || each.username}</span>
              </td>
              <td>{each.left_at ? `was ${each.role}, left ${formatDay(each.left_at)}` : each.role}</td>
              <td className="max-sm:hidden">{each.number}</td>
              <td className="max-sm:hidden">{formatDay(each.joined_at)}</td>
              <td className="text-right">
                {(leads || each.person === person.id) && (
                  <Button aria-label={`Change ${each.name}`} onClick={() => setChosen(each.id)}>
                    Change
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.invitations.length > 0 && (
        <section aria-labelledby="invited" className="mt-6">
          <h3 id="invited" className="font-semibold">
            Invited, not here yet
          </h3>
          <ul>
            {data.invitations.map((each) => (
              <li key={each.id} className="flex flex-wrap items-center gap-x-4 border-t border-line py-1.5">
                <span>
                  {each.name}, as {each.role}
                </span>
                <span className="text-sm text-muted">
                  by {each.inviter}, good until {formatDay(each.ends_at)}
                </span>
                <Button
                  className="ml-auto"
                  aria-label={`Take the invitation of ${each.name} back`}
                  onClick={() => withdraw.mutate(each.id)}
                >
                  Take back
                </Button>
              </li>
            ))}
          </ul>
          {withdraw.error && <ErrorMessage failure={withdraw.error} />}
        </section>
      )}
      {inviting && <Invite onClose={() => setInviting(false)} />}
      {member && <ChangeSheet member={member} onClose={() => setChosen(null)} />}
    </>
  );
}

function Invite({ onClose }: { onClose: () => void }) {
  const { membership } = useHere();
  const mail = useSession().data?.mail ?? false;
  const invite = useInvite(membership.programme);
  const [typed, setTyped] = useState({ name: "", role: "crew" as Role, email: "" });
  const errors = fieldErrors(invite.error);
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title="Invite somebody"
      description="A link, good once and for two weeks. They choose their own password."
    >
      {invite.data ? (
        <HandedLink link={invite.data.link}>
          {invite.data.mailed
            ? `A letter is on its way to ${invite.data.invitation.email}. The link is also here, this once:`
            : `Hand this link to ${invite.data.invitation.name}; it is shown this once:`}
        </HandedLink>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            invite.mutate(typed);
          }}
        >
          <Field
            label="Name"
            value={typed.name}
            required
            maxLength={80}
            error={errors.name}
            onChange={(event) => setTyped({ ...typed, name: event.target.value })}
          />
          <Choice
            label="Role"
            value={typed.role}
            hint={`A ${typed.role} ${ROLES[typed.role].does}.`}
            onChange={(event) => setTyped({ ...typed, role: event.target.value as Role })}
          >
            {ROLE_NAMES.map((role) => (
              <option key={role}>{role}</option>
            ))}
          </Choice>
          <Field
            label="Mail address (may be left empty)"
            hint={
              mail ? "The link goes there, too." : "This installation sends no mail; it helps to tell people apart."
            }
            type="email"
            value={typed.email}
            error={errors.email}
            onChange={(event) => setTyped({ ...typed, email: event.target.value })}
          />
          {invite.error && <ErrorMessage failure={invite.error} />}
          <Button type="submit" look="ink" large disabled={invite.isPending}>
            Make the invitation
          </Button>
        </form>
      )}
    </Sheet>
  );
}

function ChangeSheet({ member, onClose }: { member: Member; onClose: () => void }) {
  const { membership, person, may } = useHere();
  const change = useChangeMember(membership.programme);
  const shutOut = useShutOut(membership.programme);
  const link = usePasswordLink(membership.programme);
  const forget = useForgetMember(membership.programme);
  const [number, setNumber] = useState(member.number);
  const leads = may("lead");
  const own = member.person === person.id;
  const failure = change.error ?? shutOut.error ?? link.error ?? forget.error;
  const leave = (here: boolean) =>
    change.mutate(
      { member: member.id, here },
      {
        onSuccess: () => {
          notify(
            here ? `${member.name} is back.` : `${member.name} has left; the name stays in the record.`,
            leads && !own ? () => change.mutate({ member: member.id, here: !here }) : undefined,
          );
          onClose();
        },
      },
    );
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={member.name}
      description={`${member.role} of ${membership.programme_name}`}
    >
      <div className="grid gap-4">
        {leads && !member.left_at && (
          <>
            <Choice
              label="Role"
              value={member.role}
              hint={`A ${member.role} ${ROLES[member.role].does}.`}
              onChange={(event) => change.mutate({ member: member.id, role: event.target.value as Role })}
            >
              {ROLE_NAMES.map((role) => (
                <option key={role}>{role}</option>
              ))}
            </Choice>
            <form
              className="flex items-end gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                change.mutate({ member: member.id, number });
              }}
            >
              <Field
                label="Number as a tagger or volunteer"
                value={number}
                maxLength={20}
                error={fieldErrors(change.error).number}
                onChange={(event) => setNumber(event.target.value)}
              />
              <Button type="submit" disabled={number === member.number}>
                Save
              </Button>
            </form>
          </>
        )}
        {failure && <ErrorMessage failure={failure} />}
        {link.data && (
          <HandedLink link={link.data.link}>Hand this link over; it is good once, within a day:</HandedLink>
        )}
        <div className="flex flex-wrap gap-2">
          {leads && !own && !member.left_at && (
            <>
              <Button onClick={() => link.mutate(member.id)}>Link for a new password</Button>
              <Button
                onClick={() =>
                  shutOut.mutate(member.id, {
                    onSuccess: () => notify(`${member.name} is signed out on every device. The password stays.`),
                  })
                }
              >
                Lost tablet: sign out everywhere
              </Button>
            </>
          )}
          {member.left_at ? (
            leads && (
              <>
                <Button onClick={() => leave(true)}>Restore</Button>
                <Button
                  look="signal"
                  onClick={() =>
                    forget.mutate(member.id, { onSuccess: () => notify("The name is gone; the record stays.") })
                  }
                >
                  Forget the name for good
                </Button>
              </>
            )
          ) : (
            <Button look="signal" onClick={() => leave(false)}>
              {own ? "Leave this programme" : "Has left"}
            </Button>
          )}
        </div>
        <p className="text-sm text-muted">
          Who has left may do nothing here any more; what they recorded stays under their name.
        </p>
      </div>
    </Sheet>
  );
}
