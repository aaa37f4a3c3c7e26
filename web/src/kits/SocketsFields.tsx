import { Plus } from 'lucide-react';
import { useFieldArray, type UseFormReturn } from 'react-hook-form';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { newSocket, type KitForm } from './kitForm.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';

/** The sockets of a kit: name, what they take, and the teacher's own label. */
export function SocketsFields({
  form: { control, register, watch, formState, getValues },
}: {
  form: UseFormReturn<KitForm>;
}) {
  const { fields, append, remove } = useFieldArray({ control, name: 'sockets' });
  const now = watch('sockets');
  const cell = 'input h-11 w-full min-w-20';
  return (
    <Panel
      title="Sockets"
      aside="two motors must drive a left and a right wheel"
      footer={
        <Button
          icon={Plus}
          disabled={fields.length >= 40}
          onClick={() => append(newSocket(getValues('sockets')))}
        >
          Another socket
        </Button>
      }
    >
      <div className="relative overflow-x-auto">
        <table className="w-full">
          <TableHead columns={['name', 'takes', 'drives', 'your own label', '']} />
          <tbody>
            {fields.map((row, i) => (
              <tr key={row.id} className="align-top">
                <td className="py-1 pr-2">
                  <input
                    aria-label={`Name of socket ${i + 1}`}
                    className={`${cell} font-mono`}
                    maxLength={16}
                    aria-invalid={!!formState.errors.sockets?.[i]?.name}
                    {...register(`sockets.${i}.name`, {
                      validate: (t) =>
                        /^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/.test(t.trim()) || 'Letters, digits and dashes.',
                    })}
                  />
                  {formState.errors.sockets?.[i]?.name ? (
                    <span className="text-sm text-fault">{formState.errors.sockets[i]?.name?.message}</span>
                  ) : null}
                </td>
                <td className="py-1 pr-2">
                  <select
                    aria-label={`What socket ${i + 1} takes`}
                    className={`${cell} min-w-30`}
                    {...register(`sockets.${i}.takes`)}
                  >
                    <option value="sensor">a sensor</option>
                    <option value="motor">a motor</option>
                  </select>
                </td>
                <td className="py-1 pr-2">
                  {now[i]?.takes === 'motor' ? (
                    <input
                      aria-label={`What socket ${i + 1} drives`}
                      className={cell}
                      maxLength={40}
                      list="drives"
                      {...register(`sockets.${i}.drives`)}
                    />
                  ) : null}
                </td>
                <td className="py-1 pr-2">
                  <input
                    aria-label={`Label of socket ${i + 1}`}
                    className={cell}
                    maxLength={40}
                    placeholder="the red plug"
                    {...register(`sockets.${i}.label`)}
                  />
                </td>
                <td className="py-1">
                  <RemoveButton title={`Remove socket ${now[i]?.name ?? i + 1}`} onClick={() => remove(i)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <datalist id="drives">
          {['left wheel', 'right wheel', 'turret'].map((word) => (
            <option key={word} value={word} />
          ))}
        </datalist>
      </div>
    </Panel>
  );
}
