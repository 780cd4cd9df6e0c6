# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # The front page of an orchard: what matters now, across its stations.
      class TodayPages < Base
        # What the button of a matter says, where it leads, and who may do it.
        ACTS = { "survey" => ["Add trees", "/trees/new", "grafter"], "tend" => ["Walk what is due", "", "grafter"],
                 "slip" => ["Test the bark", "/walk", "grafter"], "wood" => ["See to the wood", "", "grafter"],
                 "plan" => ["Go on planning", "", "steward"], "tally" => ["Go on counting", "", "grafter"] }.freeze
        # The same for those who look on.
        LOOKS = { "survey" => "See the trees", "tend" => "See what is due", "slip" => "See the bark",
                  "wood" => "See the wood", "plan" => "See the plans", "tally" => "See the count" }.freeze

        helpers do
          # @return [Array(String, String)] words and address
          def act_of(matter, front)
            return graft_act(front) if matter.station == "graft"

            act = matter.station == "survey" && Headline.new(orchard, today).tap(&:survey).act
            words, path, role = act ? [act.words, act.path, act.role] : ACTS.fetch(matter.station)
            return [LOOKS.fetch(matter.station), to(matter.station)] unless may?(role)

            [words, to(act ? act.station : matter.station, path)]
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
