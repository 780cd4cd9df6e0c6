# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The front page of an orchard: what matters now, across its stations.
      class TodayPages < Base
        # What the button of a matter says, and where it leads.
        ACTS = { "survey" => ["Add trees", "/trees/new"], "tend" => ["Walk what is due", ""],
                 "slip" => ["Test the bark", "/walk"], "wood" => ["See to the wood", ""],
                 "plan" => ["Go on planning", ""],
                 "tally" => ["Go on counting", ""] }.freeze

        # What rows are called, one and many; others by their table.
        ROWS = { "observations" => %w[visit visits], "tallies" => %w[count counts], "tasks_done" => %w[task tasks],
                 "plan_limbs" => ["planned limb", "planned limbs"], 
                 "phenology_seen" => ["look at bark", "looks at bark"],
                 "varieties" => %w[variety varieties], "bundles" => %w[bundle bundles] }.freeze
        DONE = { "add" => "new", "change" => "changed", "hide" => "taken away", "restore" => "brought back" }.freeze

        helpers do
          # How often something was done to what: "3 visits new".
          def change_words(what, count)
            table, action = what
            one, many = ROWS.fetch(table) { table.tr("_", " ").then { |words| [words.chomp("s"), words] } }
            "#{counted(count, one, many)} #{DONE.fetch(action, action)}"
          end

          # @return [Array(String, String)] words and address
          def act_of(matter, front)
            return graft_act(front) if matter.station == "graft"

            words, path = ACTS.fetch(matter.station)
            bare = matter.station == "survey" && matter.trees.first
            bare ? ["Measure its limbs", to("survey", "/trees/#{bare}")] : [words, to(matter.station, path)]
          end

          # When today is no day, the button names the day that is.
          def graft_act(front)
            day = front.next_day
            return ["The day's sheet", to("graft", "/sheet")] if day == today
            return ["See what waits", to("graft")] unless day

            ["The sheet for #{day.strftime('%A %-d %B')}", to("graft", "/sheet?on=#{day.iso8601}")]
          end

          # Since when changes are told: one's last sign-in before this one, or a week ago.
          def told_since = Records::DoorLog.sign_in_before(account) || Time.now.utc - 7 * 86_400
        end

        get "/" do
          front = Headline.new(orchard, today).front
          erb :"today/orchard", locals: { front: front, view: OrchardView.new(orchard, {}, today, wanted: front.trees),
                                          changes: Records::HistoryQueries.since(orchard, told_since, but: account) }
        end
      end
    end
  end
end
