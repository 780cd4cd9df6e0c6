# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A wound as it is measured: the girth, the margins called out round the trunk, and how it lies.
      class MeasureWoundForm < Form
        lengths girth: "wounded_girth"
        columns girth_mm: :girth, girth_typed: :girth, root_bark: :rootless

        params do
          required(:girth).filled(:string)
          optional(:girth_known).filled(:bool)
          optional(:margins).filled(:string, max_size?: 4000)
          optional(:bark_left).filled(:string, max_size?: 12)
          %i[rootless buried below_union drying].each { |name| optional(name).filled(:bool) }
          optional(:note).filled(:string, max_size?: 2000)
          optional(:version).filled(:integer)
        end

        # The columns that a reading comes to, and the margins, nil where nobody touched them.
        #
        # @return [Array(Hash, Array<Hash>, nil)]
        # @raise [Deeds::Refused]
        def self.to_row(reading, tree, units)
          v = reading.values
          kept = reading.unchanged&.include?(:margins)
          run = (v[:margins] unless kept)&.then { |margins| Core::Repair::MarginRun.read(margins, units: units) }
          errors = margin_errors(run, units)
          doubt = Deeds::FindWounds.doubt(tree, v[:girth], units) unless reading.unchanged&.include?(:girth)
          errors[:girth_known] = [doubt] if doubt && !v[:girth_known]
          left = share(v[:bark_left], errors)
          raise Deeds::Refused, errors if errors.any?

          [reading.changed({ girth_mm: v[:girth], girth_typed: reading.typed["girth"].to_s.strip[0, 40],
                             bark_left: left, root_bark: v[:rootless] != true, buried: v[:buried] == true,
                             below_union: v[:below_union] == true,
                             drying: v[:drying] == true, note: v[:note] }), kept ? nil : run&.readings || []]
        end

        # What is wrong with a run of margins: its own faults, else what is not likely of it.
        def self.margin_errors(run, units)
          return {} unless run
          return { margins: run.faults.map { |fault| say_fault(fault) } } unless run.ok?

          low, high = Core::Rulebook.shipped.value("plausible.margin")
          wild = run.readings.find do |each|
            each.values_at(:low_mm, :high_mm).any? { |mm| Core::Measure.within(mm, low, high, units).nil? }
          end
          return {} unless wild

          say = ->(mm) { Core::Measure.say(mm, units) }
          { margins: ["#{say[wild[:low_mm]]} to #{say[wild[:high_mm]]} is not likely: from #{say[low]} to " \
                      "#{say[high]}; check the unit"] }
        end

        def self.say_fault(fault) = "reading #{fault.number}, “#{fault.text[0, 40]}”: #{fault.why}"
        private_class_method :margin_errors, :say_fault

        # A share in per cent.
        def self.share(text, errors)
          return nil if text.nil?

          number = Float(text.delete("%").strip.tr(",", "."), exception: false)
          return number / 100 if number&.between?(0, 100)

          errors[:bark_left] = ["is from 0 to 100 %"]
          nil
        end
        private_class_method :share
      end
    end
  end
end
