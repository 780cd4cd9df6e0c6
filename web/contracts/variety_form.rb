# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A variety in the register. Days are typed as a day and a month: 5 May, 05-05.
      class VarietyForm < Form
        DAYS = %i[bloom_from bloom_to harvest_from harvest_to].freeze
        MONTHS = %w[jan feb mar apr may jun jul aug sep oct nov dec].freeze

        params do
          required(:name).filled(:string, max_size?: 80)
          required(:species).filled(:string, max_size?: 40)
          DAYS.each { |name| optional(name).filled(:string, max_size?: 20) }
          optional(:vigour).filled(:string, included_in?: Records::VarietyFit::VIGOURS)
          optional(:pollen).filled(:string, included_in?: %w[good poor none])
          optional(:protected).filled(:bool)
          optional(:permission).filled(:string, max_size?: 300)
          optional(:outside).filled(:bool)
          optional(:origin).filled(:string, max_size?: 500)
          optional(:notes).filled(:string, max_size?: 2000)
          optional(:version).filled(:integer)
        end

        DAYS.each do |name|
          rule(name) { key.failure("a day and a month, such as 5 May") if key? && VarietyForm.day(value).nil? }
        end

        def self.to_row(v)
          days = DAYS.to_h { |name| [name, v[name] && day(v[name])] }
          kept = %i[vigour pollen permission origin notes].to_h { |name| [name, v[name]] }
          v.except(:version).merge(days, kept, name: v[:name].strip, protected: v[:protected] == true,
                                   outside: v[:outside] == true)
        end

        # @return [String, nil] "MM-DD"
        def self.day(text)
          words = text.to_s.strip.downcase
          month, day = if (m = words.match(/\A(\d{1,2})-(\d{1,2})\z/)) then [m[1].to_i, m[2].to_i]
                       elsif (m = words.match(/\A(\d{1,2})\.?\s+([a-z]{3})[a-z]*\z/)) then [MONTHS.index(m[2]).to_i +
                         (MONTHS.index(m[2]) ? 1 : 0), m[1].to_i]
                       elsif (m = words.match(/\A([a-z]{3})[a-z]*\s+(\d{1,2})\z/)) then [MONTHS.index(m[1]).to_i +
                         (MONTHS.index(m[1]) ? 1 : 0), m[2].to_i]
                       end
          format("%02d-%02d", month, day) if month&.between?(1, 12) && Date.valid_date?(2024, month, day)
        end
      end
    end
  end
end
