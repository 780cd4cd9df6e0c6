# frozen_string_literal: true

# What an orchard's allotment is worth against a plan by pattern worked down the rows as far as the same wood and hours
# go, how near it is to the best that can be, and what it takes: with the core alone, and with the solver.
require_relative "../outside/allotment_solver"

TODAY = Date.new(2026, 4, 20)
SEASONS = 3

# Trees of five limbs, none like the next.
def varied_limbs(trees, random)
  lines = ["tree,tag,parent,fork_mm,bearing_deg,rise_deg,girth_mm,length_mm"]
  trees.times do |i|
    %w[A B C D E].each_with_index do |tag, k|
      lines << "T#{i + 1},#{tag},,#{800 + k * 60},#{(k * 72 + random.rand(30)) % 360},45," \
               "#{130 + random.rand(190)},#{1600 + random.rand(1400)}"
    end
  end
  lines.join("\n")
end

def planned_orchard(trees)
  random = Random.new(trees)
  place = orchard("allot-#{trees}")
  bring_in(place, "trees", "row,number,species,form,height_mm,trunk_girth_mm\n" +
                           Array.new(trees) { |i| "T,#{i + 1},apple,bush,3800,520" }.join("\n"))
  bring_in(place, "limbs", varied_limbs(trees, random))
  place.trees_dataset.order(:number).select_map(:id).each_slice((trees / 6.0).ceil).with_index do |ids, n|
    variety = Records::Variety.create(orchard_id: place.id, name: "Kind #{n}", species: "apple")
    pattern = Records::Pattern.create(orchard_id: place.id, by: "bench", tree_ids: Sequel.pg_array(ids, :integer),
                                      wish: Sequel.pg_jsonb({ "variety" => variety.id, "school" => place.school,
                                                              "seasons" => SEASONS }))
    Deeds::LayPattern.write(pattern, today: TODAY)
  end
  Records::Orchard[place.id]
end

# Six sticks of ten that the first season's plan wants, and in every season six of ten of its hours.
def scarce(input)
  question = input.question
  limbs = question[:trees].flat_map { |tree| tree[:limbs] }.to_h { |limb| [limb[:id], limb] }
  planned = input.standing.group_by { |each| each[:season] }.transform_values do |rows|
    rows.map { |each| limbs.fetch(each[:limb]) }
  end
  wood = planned.fetch(0, []).group_by { |limb| limb[:variety] }.map do |variety, those|
    { variety: variety, season: 0, sticks: (those.sum { |limb| limb[:sticks] } * 0.6).floor }
  end
  question.merge(wood: wood, minutes: Array.new(SEASONS) do |season|
    planned.fetch(season, []).sum { |limb| limb[:minutes] } * 0.6
  end)
end

# The plan as it stands, tree after tree, as far as wood and hours go.
def down_the_rows(question, standing)
  limbs = question[:trees].flat_map { |tree| tree[:limbs] }.to_h { |limb| [limb[:id], limb] }
  wood = question[:wood].to_h { |row| [row.values_at(:variety, :season), row[:sticks]] }
  minutes = question[:minutes].dup
  standing.sort_by { |each| each[:limb] }.select do |each|
    limb = limbs.fetch(each[:limb])
    of = [limb[:variety], each[:season]]
    next if minutes[each[:season]] < limb[:minutes] || wood.fetch(of, Float::INFINITY) < limb[:sticks]

    minutes[each[:season]] -= limb[:minutes]
    wood[of] -= limb[:sticks] if wood.key?(of)
    true
  end
end

[10, 60, 500, 2000].each do |trees|
  place = planned_orchard(trees)
  input = Records::AllotmentInput.new(place, TODAY, { "seasons" => SEASONS })
  reading, question = timed { scarce(input) }
  stands = Core::Plan::Allotment.worth_of(question, down_the_rows(question, input.standing))
  alone, told = timed { Core::Plan::Allotment.reckon(question) }
  solving, best = timed do
    Core::Plan::Allotment.solved(question) { |problem| Outside::AllotmentSolver.call(problem, seconds: 30) }
  end
  puts format("%d trees, %d limbs, read in %.1f s: by pattern %.2f heads; core alone %.2f (gap %.1f %%, %.1f s); " \
              "with the solver %.2f (gap %.2f %%, %.1f s): %.0f %% more than by pattern",
              trees, input.planned.size, reading, stands, told[:value], told[:gap] * 100, alone, best[:value],
              best[:gap] * 100, solving, (best[:value] / stands - 1) * 100)
end
