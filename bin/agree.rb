# frozen_string_literal: true

# Every graft, limb, stub that waits and stripped trunk of the demo on every day of a year: whoever is asked says the
# same. Prints what does not agree, each once, with the first day and how often.
#   bin/agree [FIRST DAY [HOW MANY DAYS]]
require_relative "../boot"

Vestry::Boot.start
include Vestry

first = ARGV[0] ? Date.iso8601(ARGV[0]) : Date.new(2025, 11, 1)
many = Integer(ARGV[1] || "365", 10)
orchard_id = Records::Orchard.called("maunder-hill").id
found = Hash.new { |all, what| all[what] = [] }

# Answers that say to wait, and tasks that say it is lost; answers that say it is lost, and tasks for one that lives.
WAITS = %w[answer_wait answer_knitting answer_swelling answer_callused answer_false_start answer_grows_on answer_asleep
           answer_unjudged].freeze
LOST = %w[answer_regraft_now answer_regraft_no_wood answer_regraft_soon answer_bud answer_spring answer_this_spring
          answer_planned answer_missed answer_no_room].freeze
AGAIN = %w[regraft regraft-bud again-this-spring bud-this-summer].freeze
TOO_LATE = %w[answer_bud answer_spring answer_beside_later].freeze
NOW = %w[regraft again-this-spring].freeze
SPRING = %w[regraft-spring].freeze
LIVING = %w[choose shorten brace tie-wire uncover no-fruit fruit-off let-light-in free-buds].freeze

def contradicts?(headline, fate)
  fate == "lost" ? headline.match?(/\btook\b/i) : headline.match?(/was lost|failed/i)
end

def disagreements(graft, today, due, rules, waiting)
  report = Records::GraftReport.new(graft, today)
  open = report.care[:tasks].select { |task| %w[open late].include?(task[:status]) }.map { |task| task[:key] }.sort
  told = []
  told << "tasks: page #{open - due} agenda #{due - open}" if open != due.sort
  answer = report.answer.first&.fetch(:code)
  told << "#{answer} beside #{rules & AGAIN}" if WAITS.include?(answer) && (rules & AGAIN).any?
  asked = rules & (AGAIN + SPRING)
  told << "#{answer} beside #{asked}" if %w[answer_planned answer_missed].include?(answer) && asked.any?
  told << "#{answer} beside #{rules & LIVING}" if LOST.include?(answer) && (rules & LIVING).any?
  fate = graft.fate(today)
  told << "#{answer} beside #{rules & NOW}" if TOO_LATE.include?(answer) && (rules & NOW).any?
  told << "#{answer} of one that #{fate}" if LOST.include?(answer) && fate == "took"
  latest = graft.limb.graft&.id == graft.id
  planned = %w[answer_planned answer_missed].include?(answer)
  if latest && fate == "lost" && waiting.include?(graft.limb_id) != planned
    told << "#{answer}, and #{'not ' unless waiting.include?(graft.limb_id)}among the stubs that wait"
  end
  headline = Web::Headline.new(graft.orchard, today).limb(graft.limb) if latest
  told << "headline “#{headline}” of one that #{fate}" if headline && contradicts?(headline, fate)
  told
end

# States of a trunk that waits for its repair, and tasks that slide something under its bark.
UNREPAIRED = %w[bare covered].freeze
UNDER_BARK = %w[bridge inarch stump-graft set-again set-more].freeze

# @param slips [Boolean] whether bark slips on its tree
def trunk_disagreements(report, due, headline, listed, slips)
  open = report.mending[:tasks].select { |task| %w[open late].include?(task[:status]) }
  state, keys = report.mending[:state], open.map { |task| task[:key] }
  found = []
  found << "tasks: page #{keys - due} agenda #{due - keys}" if keys.sort != due.sort
  early = open.select { |task| task[:due_on] < report.wound.found_on }
  found << "due before it was found: #{early.map { |task| task[:key] }}" if early.any?
  found << "headline “#{headline}” of one that is #{state}" if headline.match?(/holds|failing/) &&
    !%w[holding failing].include?(state)
  found << "the list has it wait for repair, its page is #{state}" if !UNREPAIRED.include?(state) &&
    listed.match?(/#{report.wound.label}\b.*wait/)
  asked = open.map { |task| task[:rule] } & UNDER_BARK
  found << "#{asked} while bark does not slip" if asked.any? && !slips
  found
end

# Grafts that the counting asks about in autumn, beside those with a tally on the agenda.
#
# @param asked [Array<Integer>] by the agenda
def count_disagreements(orchard, today, asked)
  return [] unless Records::CountRow.open?(orchard, today)

  season = orchard.season_to_count(today)
  left = orchard.rows.flat_map { |row| Records::CountRow.new(orchard, row, season).left.map(&:id) }
  label = ->(id) { Records::Graft[id].limb.label }
  (left - asked).map { |id| "#{label[id]} is still to count, and not on the agenda" } +
    (asked - left).map { |id| "#{label[id]} is on the agenda, and not to be counted" }
end

# Answers by which another is made now, from sticks that lie there.
MAKE_NOW = %w[answer_regraft_now answer_beside_now].freeze

# What the plan, the windows and the wood say of this season's stubs that wait.
def stub_disagreements(orchard, today)
  season = orchard.season.name_of(today)
  windows, later = orchard.stub_windows(today), orchard.season_to_plan(today) > season
  rows = orchard.planned(:waiting, season).rows.select(&:complete?)
  faults = rows.map { |row| row.limb.tree }.uniq(&:id).to_h do |tree|
    [tree.id, Records::TreePlan.new(tree, today).faults.select { |each| each[:code] == "plan_overdue" }]
  end
  told = rows.filter_map do |row|
    overdue = faults.fetch(row.limb.tree_id).any? { |each| each[:tag] == row.limb.tag }
    past = (later || row.season < season) && windows.past?(row)
    next if overdue == past

    "#{row.limb.label} is #{'not ' unless past}past its last day, and #{'no ' unless overdue}fault of its plan"
  end
  wanted = orchard.stubs_in_time(season, today).rows.map(&:variety_id)
  told + left_over(orchard, today).select { |bundle| wanted.include?(bundle.variety_id) }
    .map { |bundle| "#{bundle.code} is left over, and a stub waits for its #{bundle.variety.name}" }
end

# This season's bundles that no graft is said to want any more.
def left_over(orchard, today)
  store = orchard.wood_store(today)
  store.bundles(season: orchard.season.name_of(today)).select { |bundle| store.over?(bundle) }
end

# Of one that died: what its answer has it made from and when, beside the wood and the plan.
def again_disagreements(graft, today, over)
  report = Records::GraftReport.new(graft, today)
  answer = report.answer.first or return []
  return [] unless MAKE_NOW.include?(answer[:code])

  season = graft.orchard.last_days(today).season_again(graft)
  [("#{answer[:code]}, and planned again for #{season}" if season != graft.orchard.season.name_of(today)),
   (if over.include?(graft.variety_id)
      "#{answer[:code]} with #{answer[:sticks]} sticks, and its wood is left over"
    end)].compact
end

# Whether a limb that is to be worked waits now, or is kept for a coming season: by its headline, its tree's plan, both
# drawings and the list of stubs that wait.
def limb_disagreements(orchard, today, waiting)
  planning = orchard.season_to_plan(today)
  rows = Records::PlanQueries.to_do(orchard).where(role: %w[work later]).eager(limb: :tree).all
  crowns = Records::Crowns.of(orchard, rows.map { |row| row.limb.tree_id }.uniq, planning: planning)
  rows.group_by { |row| row.limb.tree }.flat_map do |tree, own|
    plan = Records::TreePlan.new(tree, today)
    drawn = Drawings::DrawnLimb.all(tree, planning: planning).to_h { |each| [each.limb.id, each.state] }
    seen = crowns.fetch(tree.id, []).to_h { |each| [each.tag, each.state] }
    own.reject { |row| row.limb.graft }.filter_map do |row|
      limb = row.limb
      told = { headline: Web::Headline.new(orchard, today).limb(limb).include?("kept now"),
               plan: plan.role(limb) == "later", side: drawn[limb.id] == "later", above: seen[limb.tag] == "later",
               waits: !waiting.include?(limb.id) }
      "#{limb.label} of #{row.season}: kept for later by #{told.select { |_, so|
 so }.keys}" if told.values.uniq.size > 1
    end
  end
end

(0...many).each do |n|
  today = first + n
  orchard = Records::Orchard[orchard_id]
  orchard.with_current(reading: true) do
    agenda = Records::Agenda.new(orchard, today)
    items = (1..10).flat_map { |page| agenda.due(page: page) }
      .uniq { |item| [item.of.class, item.of.id, item.task[:key]] }
    found["agenda counts #{agenda.due_count}, lists #{items.size}"] << today if agenda.due_count != items.size
    headline = Web::Headline.new(orchard, today).tend(agenda)
    said = headline[/\A(\d+) task/, 1].to_i
    found["headline: #{headline}, agenda #{agenda.due_count}"] << today if said.positive? && said != agenda.due_count
    waiting = orchard.planned(:waiting, orchard.season_to_plan(today)).rows.map(&:limb_id)
    trunks = orchard.stripped_trunks(today).all
    listed = Web::Headline.new(orchard, today).repairs(trunks)
    by_wound = items.select(&:wound?).group_by { |item| item.of.id }
    trunks.each do |stored|
      due = (by_wound[stored.wound.id] || []).map { |item| item.task[:key] }
      report = Records::WoundReport.new(stored.wound, today)
      state = report.mending[:state]
      found["#{stored.wound.label}: stored #{stored.mending[:state]}, its page #{state}"] << today if
        stored.mending[:state] != state
      slips = today.between?(report.opens_on, report.closes_on)
      headline = Web::Headline.new(orchard, today).say_wound(report)
      trunk_disagreements(report, due, headline, listed, slips).each do |what|
        found["trunk of #{report.wound.label}: #{what}"] << today
      end
    end
    (stub_disagreements(orchard, today) + limb_disagreements(orchard, today, waiting)).each do |what|
      found[what] << today
    end
    over = left_over(orchard, today).map(&:variety_id)
    by_graft = items.reject(&:wound?).group_by { |item| item.of.id }
    tallies = by_graft.select { |_, list| list.any? { |item| item.task[:rule] == "tally" } }.keys
    count_disagreements(orchard, today, tallies).each { |what| found[what] << today }
    Records::Graft.in_sight.where(orchard_id: orchard_id).where { grafted_on <= today }.each do |graft|
      due = (by_graft[graft.id] || []).map { |item| item.task[:key] }
      rules = (by_graft[graft.id] || []).map { |item| item.task[:rule] }
      (disagreements(graft, today, due, rules, waiting) + again_disagreements(graft, today, over)).each do |what|
        found["#{graft.limb.label} #{graft.grafted_on}: #{what}"] << today
      end
    end
  end
end
found.sort.each { |what, days| puts "#{days.first} (#{days.size} days)  #{what}" }
puts "#{many} days from #{first}: #{found.empty? ? 'all agree' : "#{found.size} do not agree"}"
exit found.empty? ? 0 : 1
