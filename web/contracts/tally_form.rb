# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What a graft has come to this autumn.
      class TallyForm < Form
        lengths growth: "shoot", above: "thickness", below: "thickness", open_a: "wound", open_b: "wound"
        columns growth_mm: :growth, above_mm: :above, below_mm: :below, open_a_mm: :open_a, open_b_mm: :open_b,
                angle_deg: :angle, crop_kg: :crop
        numbers angle: "°", sticks_alive: "sticks"
        weights :crop

        params do
          required(:tallied_on).filled(Form::DAY)
          required(:alive).filled(:bool)
          optional(:growth).filled(:string)
          optional(:above).filled(:string)
          optional(:below).filled(:string)
          optional(:open_a).filled(:string)
          optional(:open_b).filled(:string)
          optional(:angle).filled(:integer, gteq?: 0, lteq?: 180)
          optional(:crop).filled(:string, max_size?: 12)
          optional(:sticks_alive).filled(:integer, gteq?: 0, lteq?: 12)
          optional(:waist).filled(:bool)
          optional(:breakage).filled(:string, max_size?: 500)
          optional(:note).filled(:string, max_size?: 2000)
          optional(:version).filled(:integer)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        rule(:crop) do
          key.failure(WEIGHED.fetch(units)) if key? && TallyForm.kilograms(value).nil?
        end

        WEIGHED = { "metric" => "kilograms, as 3.5, or 8 lb, from 0 to 500 kg",
                    "imperial" => "pounds, as 8, or 3.5 kg, from 0 to 1,100 lb" }.freeze
        private_constant :WEIGHED

        # @return [Float, nil]
        def self.kilograms(text) = Core::Values.kilograms(text)&.then { |kg| kg if kg.between?(0, 500) }

        # @param by [String] who counted
        def self.to_row(v, by:)
          { tallied_on: v[:tallied_on], alive: v[:alive], growth_mm: v[:growth], above_mm: v[:above],
            below_mm: v[:below], open_a_mm: v[:open_a], open_b_mm: v[:open_b], angle_deg: v[:angle],
            crop_kg: v[:crop] && kilograms(v[:crop]), sticks_alive: v[:sticks_alive], waist: v[:waist] == true,
            breakage: v[:breakage], note: v[:note], tallied_by: by, client_key: v[:client_key] }
        end
      end
    end
  end
end
