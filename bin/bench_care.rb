# frozen_string_literal: true

# What aftercare costs: one graft, every graft of a great orchard, and the agenda over them.
require_relative "large_orchard"

today = Date.new(2026, 5, 18)
{ "five seasons of 20,000" => 5, "one season of 100,000" => 1 }.each do |name, seasons|
  place = LargeOrchard.build("care-#{seasons}", seasons: seasons)
  grafts = place.grafts_dataset.count
  seconds, left = timed { Records::CareSchedule.refresh(Records::Orchard[place.id], today, most: 1_000_000) }
  puts format("care of %d grafts, %s: %.1f s, %d tasks kept, %d left", grafts, name, seconds,
              DB[:care_tasks].where(orchard_id: place.id).count, left)
  one = place.grafts_dataset.where(Sequel[:grafted_on] > today - 100).first
  fresh = Records::Orchard[place.id]
  Records::CareSchedule.reckon(fresh, [one.id], today)
  times = Array.new(50) { timed { Records::CareSchedule.reckon(fresh, [one.id], today) }.first * 1000 }.sort
  puts format("care of one graft, kept: p50 %.1f ms, p95 %.1f ms", times[25], times[47])
  DB.run("ANALYZE")
  [[], ["person"], ["row"]].each do |only|
    times = Array.new(22) do
      timed do
        agenda = Records::Agenda.new(Records::Orchard[place.id], today, person: only == ["person"] ? "Orla Finch" : nil,
                                     row: only == ["row"] ? "BAAAA" : nil)
        [agenda.due_count, agenda.late_count, agenda.due.size, agenda.ahead.size, agenda.people.size,
         agenda.rows_due.size]
      end.first * 1000
    end.drop(2).sort
    puts format("agenda%s: p50 %d ms, p95 %d ms", only.empty? ? "" : " by #{only.first}", times[10], times[18])
  end
end
