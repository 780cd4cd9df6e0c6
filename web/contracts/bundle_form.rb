# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A bundle as it is made. Diameters are typed as a run: 8 9 9.5 11 8.
      class BundleForm < Form
        lengths length: "stick"
        columns length_mm: :length, variety_id: :variety
        numbers count: "sticks"

        params do
          required(:variety).filled(:integer, gt?: 0)
          optional(:tree).filled(:string, max_size?: 40)
          optional(:source).filled(:string, max_size?: 300)
          required(:cut_on).filled(Form::DAY)
          optional(:count).filled(:integer, gteq?: 1, lteq?: Deeds::MakeBundle::MOST)
          optional(:diameters).filled(:string, max_size?: 4000)
          optional(:length).filled(:string)
          optional(:whole_shoots).filled(:bool)
          optional(:ends).filled(:string, included_in?: Records::Bundle::ENDS.keys)
          optional(:dip).filled(:string, included_in?: Records::Bundle::DIPS.keys)
          optional(:packing).filled(:string, included_in?: Records::Bundle::PACKINGS.keys)
          optional(:store).filled(:integer, gt?: 0)
          optional(:laid_in).filled(Form::DAY)
          optional(:cut_by).filled(:string, max_size?: 80)
          optional(:checked).value(:array, max_size?: 20)
            .each(:string, included_in?: Deeds::MakeBundle::CHECKS.keys.map(&:to_s))
          optional(:promise).filled(:integer, gt?: 0)
          optional(:client_key).filled(:string, format?: /\A[0-9a-f-]{36}\z/)
        end

        def read(params, standing = {}, exact = {})
          reading = super
          return reading unless reading.values[:diameters].is_a?(String)

          FormResult.new(**reading.to_h,
                      values: reading.values.merge(diameters: DiameterRun.read(reading.values[:diameters], units)))
        rescue Core::BadInput => e
          reading.with(diameters: [e.allowed])
        end
      end
    end
  end
end
