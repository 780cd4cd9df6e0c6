# frozen_string_literal: true

module Vestry
  module Web
    module Api
      class Writes
        # Spring as it is seen, the weather, and the crew's days.
        class SlipWrites < Writes
          page "slip"

          SEEN = body do
            optional(:stage).filled(:string, included_in?: Records::PhenologySeen::STAGES.keys)
            optional(:slipping).filled(:bool)
            optional(:closed).filled(:bool)
            optional(:bleeds).filled(:bool)
            optional(:seen_on).filled(Contracts::Form::DAY)
            optional(:client_key).filled(:string, :uuid_v4?)
          end

          post "trees/{id}/seen", "Records what a tree does in spring, and whether its bark lifts", form: SEEN,
                 answers: "phenology_seen" do |on, v|
            Deeds::SeeStage.call(on.tree, stage: v[:stage], slipping: v[:slipping], on: v[:seen_on] || on.today,
                                 closed: v[:closed] || false, bleeds: v[:bleeds] || false,
                                 client_key: v[:client_key], **on.who)
          end

          post "weather", "Keeps days of weather, as CSV: day, min_c, max_c, rain_mm, gust_ms",
               form: body(long: { csv: 5_000_000 }) { required(:csv).filled(:string) }, most_bytes: 6_000_000 do |on, v|
            Deeds::KeepWeather.read_file(on.orchard, v[:csv], by: on.by)
          end

          DAY = body do
            required(:day).filled(Contracts::Form::DAY)
            required(:hours).filled(:float, gteq?: 0.0, lteq?: 24.0)
            required(:grafters).filled(:integer, gteq?: 0, lteq?: 200)
          end

          post "crew_days", "Says how long how many can graft on a day", form: DAY do |on, v|
            Deeds::SettleCrew.day(on.orchard, v[:day], hours: v[:hours], grafters: v[:grafters], by: on.by)
          end

          post "plan_limbs/{id}/day", "Settles a planned limb to a day; without one, lets it go again",
               form: body { optional(:day).filled(Contracts::Form::DAY) } do |on, v|
            Deeds::SettleCrew.fix(on.planned_limb, v[:day], **on.who)
          end
        end
      end
    end
  end
end
