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

        helpers do
          # @return [Array(String, String)] words and address
          def act_of(matter, front)
            return graft_act(front) if matter.station == "graft"

            act = matter.station == "survey" && Headline.new(orchard, today).tap(&:survey).act
            return [act.words, to(act.station, act.path)] if act

            words, path = ACTS.fetch(matter.station)
            [words, to(matter.station, path)]
          end

          # When today is no day, the button names the day that is.
          def graft_act(front)
            day = front.next_day
            return ["The day's sheet", to("graft", "/sheet")] if day == today
            return ["See what waits", to("graft")] unless day

            ["The sheet for #{day.strftime('%A %-d %B')}", to("graft", "/sheet?on=#{day.iso8601}")]
          end

          # While the trees sleep there is time to practise.
          def quiet_month? = Core::Practice::Next.quiet?(today, southern: orchard.southern?)

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
