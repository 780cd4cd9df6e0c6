# frozen_string_literal: true

module Vestry
  module Web
    # The dip calculator: what to measure out, or what a mix really is, in jugs and spoons.
    class DilutionForm
      attr_reader :params, :error, :answer

      def initialize(orchard, params)
        @orchard = orchard
        @params = params
        reckon if way
      end

      # The measures this orchard's people have at hand, with what each holds in ml.
      def measures = { "ml" => 1.0 }.merge(@orchard.rulebook.value("reckoning.dip.measures_#{@orchard.units}"))

      def way = %w[make mixed].include?(params["way"]) ? params["way"] : nil
      def shown(name, standing = nil) = params[name] || standing

      # An amount as it is measured out: to the nearest of the least measure, in the fewest of the larger
      # ones; in ml alone where that would be far out.
      def say(millilitres)
        exact = "#{format(millilitres < 100 ? '%.1f' : '%.0f', millilitres)} ml"
        least = measures.except("ml").values.min
        left = (millilitres / least).round * least
        if millilitres.zero? || (left - millilitres).abs > millilitres * @orchard.rulebook.value("reckoning.dip.near")
          return exact
        end

        parts = measures.except("ml").sort_by { |_, holds| -holds }.filter_map do |name, holds|
          count = (left / holds + 0.001).floor
          left -= count * holds
          "#{count} #{name}#{'s' unless count == 1}" if count.positive?
        end
        "#{exact}, about #{parts.join(' and ')}"
      end

      private

      def reckon
        input = way == "make" ? { total_ml: amount("total"), target_percent: number("target", "strength wanted") } :
          { product_ml: amount("product"), water_ml: amount("water") }
        @answer = Core::Wood::Dilution.reckon(input.merge(product_percent: number("strength",
          "the product's strength")), rulebook: @orchard.rulebook)
      rescue Core::BadInput => e
        @error = [FIELDS.fetch(e.field.to_s, e.field), e.allowed]
      end

      FIELDS = { "total_ml" => "total", "target_percent" => "target", "product_ml" => "product", "water_ml" => "water",
                 "product_percent" => "strength" }.freeze
      private_constant :FIELDS

      def amount(name)
        number(name, name) * measures.fetch(params["#{name}_in"], 1.0)
      end

      def number(name, words)
        value = Float(params[name].to_s.strip.delete("%").tr(",", "."), exception: false)
        return value if value&.finite?

        raise Core::BadInput.new(name, params[name].to_s.strip.empty? ? "#{words}: nothing was typed" :
                                 "“#{params[name].to_s[0, 20]}” is not a number")
      end
    end
  end
end
