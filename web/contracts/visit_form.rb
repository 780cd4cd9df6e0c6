# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What was seen at a visit. At least one thing must have been.
      class VisitForm < Form
        lengths longest_shoot: "shoot"
        columns longest_shoot_mm: :longest_shoot
        numbers sticks_alive: "sticks"

        params do
          required(:seen_on).filled(Form::DAY)
          optional(:buds).filled(:string, included_in?: Core::Tend::Care::BUDS)
          optional(:callus).filled(:string, included_in?: Core::Tend::Care::CALLUS)
          optional(:verdict).filled(:string, included_in?: Core::Tend::Care::VERDICTS)
          optional(:longest_shoot).filled(:string)
          optional(:seal).filled(:string, included_in?: Core::Tend::Care::SEALS)
          optional(:wrap).filled(:string, included_in?: Core::Tend::Care::WRAPS)
          optional(:stock_shoots).filled(:string, included_in?: Core::Tend::Care::STOCK_SHOOTS)
          optional(:pests).filled(:string, included_in?: Core::Tend::Care::PESTS)
          optional(:snapped).filled(:bool)
          optional(:fruit).filled(:bool)
          optional(:leaf_stalk).filled(:string, included_in?: Core::Tend::Care::LEAF_STALKS)
          optional(:sticks_alive).filled(:integer, gteq?: 0, lteq?: 12)
          optional(:dead_sticks).filled(:string, format?: /\A[1-9]\d?(?: [1-9]\d?){0,11}\z/)
          optional(:note).filled(:string, max_size?: 2000)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        # @param by [String] who saw it
        def self.to_row(v, by:)
          { seen_on: v[:seen_on], buds: v[:buds], callus: v[:callus], verdict: v[:verdict],
            longest_shoot_mm: v[:longest_shoot], seal_state: v[:seal], wrap_state: v[:wrap],
            stock_shoots: v[:stock_shoots], leaf_stalk: v[:leaf_stalk], sticks_alive: v[:sticks_alive],
            dead_sticks: v[:dead_sticks].to_s.split.map(&:to_i).uniq.sort,
            pests: v[:pests], snapped: v[:snapped] == true, fruit: v[:fruit] == true, note: v[:note], seen_by: by,
            client_key: v[:client_key] }
        end

        rule(:buds, :callus, :verdict, :longest_shoot, :note, :seal, :wrap, :stock_shoots, :pests, :leaf_stalk,
             :sticks_alive, :dead_sticks) do
          seen = %i[buds callus verdict longest_shoot note seal wrap stock_shoots pests leaf_stalk sticks_alive
                    dead_sticks]
            .any? { |name| values[name] }
          key(:buds).failure("say at least one thing that was seen") unless seen
        end
      end
    end
  end
end
