import { Line } from './Line'
import { useForm } from './formContext'

/** What it is called, what it finds, for whom. */
export function Head() {
  const { file, fields, editing } = useForm()
  return (
    <ol className="[&>li]:border-t-0">
      <Line path={[]} name="title and kind" fields={fields['head'] ?? []} value={file} editing={editing}>
        <h1 className="text-title">{file.title}</h1>
        <p className="text-slate">
          {[file.kind, `${file.visits} ${file.visits === 1 ? 'lesson' : 'lessons'}`, file.finds, file.level]
            .filter(Boolean)
            .join(' · ')}
        </p>
      </Line>
    </ol>
  )
}
