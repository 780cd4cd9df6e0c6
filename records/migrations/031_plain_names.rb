# frozen_string_literal: true

# Tables and background work under the names that the code has for them.
Sequel.migration do
  tables = { cares: :care_states, upkeep: :care_tasks, upkeep_mark: :care_mark, arrivals: :uploads }
  jobs = { "BringOrchard" => "ImportOrchard", "Rounds" => "PollDevices" }
  steps = { "LookThrough" => "preview", "ReadFile" => "write" }
  job = ->(name) { "Vestry::Deeds::Jobs::#{name}" }

  # Functions name tables by their words.
  rewrite = ->(db, names) do
    known = db[:pg_proc].join(:pg_namespace, oid: :pronamespace).where(nspname: "public")
      .where(Sequel.lit("prosrc ~ ?", "\\m(#{names.keys.join('|')})\\M"))
      .select_map(Sequel.function(:pg_get_functiondef, Sequel[:pg_proc][:oid]))
    known.each { |text| db.run(text.gsub(/\b(#{names.keys.join('|')})\b(?!\()/) { |word| names.fetch(word.to_sym) }) }
  end

  up do
    tables.each { |old, new| rename_table(old, new) }
    rewrite.call(self, tables)
    jobs.each { |old, new| from(:que_jobs).where(job_class: job[old]).update(job_class: job[new]) }
    steps.each do |old, step|
      from(:que_jobs).where(job_class: job[old])
        .update(job_class: job["ImportStep"], args: Sequel.lit("args || to_jsonb(?::text)", step))
    end
  end

  down do
    steps.each do |old, step|
      from(:que_jobs).where(job_class: job["ImportStep"]).where(Sequel.lit("args ->> 1 = ?", step))
        .update(job_class: job[old], args: Sequel.lit("args - 1"))
    end
    jobs.each { |old, new| from(:que_jobs).where(job_class: job[new]).update(job_class: job[old]) }
    tables.each { |old, new| rename_table(new, old) }
    rewrite.call(self, tables.invert)
  end
end
