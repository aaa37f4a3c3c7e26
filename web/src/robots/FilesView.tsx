import FileBoard from '../reading/FileBoard.tsx';
import { useRobotContext } from './RobotLayout.tsx';

/** Readings of this robot out to a file and in from one. */
export default function FilesView() {
  const { detail } = useRobotContext();
  const first = detail.build.fittings[0];
  return (
    <FileBoard
      robot={detail}
      kit={detail.kit}
      usual={{ socket: first?.socket ?? '', kind: first?.mode ?? 'light', surface: '' }}
    />
  );
}
