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

      # In which measure an amount is typed: as it was chosen, else in what such an amount is measured with here.
      def measure(name) = params["#{name}_in"] || USUAL.dig(@orchard.units, name) || "ml"
      USUAL = { "imperial" => { "total" => "quart", "water" => "quart", "product" => "tablespoon" } }.freeze
      private_constant :USUAL

      def way = %w[make mixed].include?(params["way"]) ? params["way"] : nil
      def shown(name, standing = nil) = params[name] || standing

      # An amount as it is measured out: to the nearest of the least measure, in the fewest of the larger
      # ones; in ml alone where that would be far out.
      def say(millilitres)
        exact = "#{format(millilitres < 100 ? '%.1f' : '%.0f', millilitres)} ml"
        least = kitchen.last.last
        near = (millilitres / least).round * least
        far_out = (near - millilitres).abs > millilitres * @orchard.rulebook.value("reckoning.dip.near")
        millilitres.zero? || far_out ? exact : "#{exact}, about #{in_measures(near)}"
      end

      private

      # What kitchens measure with, the largest first.
      def kitchen = measures.except("ml").sort_by { |_, holds| -holds }

      def in_measures(left)
        parts = kitchen.filter_map do |name, holds|
          count = (left / holds + 0.001).floor
          left -= count * holds
          "#{count} #{name}#{'s' unless count == 1}" if count.positive?
        end
        [parts[0..-2].join(", "), parts.last].reject(&:empty?).join(" and ")
      end

      def reckon
        input = way == "make" ? { total_ml: amount("total"), target_percent: number("target") } :
          { product_ml: amount("product"), water_ml: amount("water") }
        @answer = Core::Wood::Dilution.reckon(input.merge(product_percent: number("strength")),
                                              rulebook: @orchard.rulebook)
      rescue Core::BadInput => e
        # What the form itself read says what is wrong in a sentence; what is not likely is one of two kinds.
        said = e.field.end_with?("_percent") ? "Write a strength from 0 to 100 %." :
          "Write how much, such as 2 or 1 1/2."
        @error = [FIELDS.fetch(e.field, e.field), FIELDS.key?(e.field) ? said : e.allowed]
      end

      FIELDS = { "total_ml" => "total", "target_percent" => "target", "product_ml" => "product", "water_ml" => "water",
                 "product_percent" => "strength" }.freeze
      private_constant :FIELDS

      def amount(name) = number(name) * measures.fetch(measure(name), 1.0)

      # A number, with a fraction if it has one.
      def number(name)
        typed = params[name].to_s.delete("%").strip
        Core::Measure.figure(typed) ||
          raise(Core::BadInput.new(name, typed.empty? ? "Say how much, such as 2 or 1 1/2." :
            "“#{typed[0, 20]}” is no number: write it as 2, 0.5 or 1 1/2."))
      end
    end
  end
end
