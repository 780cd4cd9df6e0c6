# frozen_string_literal: true

module Vestry
  module Deeds
    # What speaks against a graft as it is told: the rulebook, which may be overruled with a reason, and what cannot be.
    module SoundGraft
      module_function

      # What the rulebook says against it, in a sentence or two; nil where nothing.
      def against(limb, values)
        return if values[:known_since]

        words = [misfit(limb, values), crowded(limb, values), out_of_season(limb, values)].compact
        words.empty? ? nil : words.join(" ")
      end

      # @raise [Refused] by field
      def check(limb, values, against, today)
        errors = errors(limb, values, against, today)
        raise Refused, errors if errors.any?
      end

      def errors(limb, values, against, today)
        found = values[:known_since] ? known_errors(values, today) : day_errors(limb, values[:grafted_on], today)
        if against && values[:against_reason].to_s.strip.empty?
          found[:against_reason] = ["#{against} It can be kept with a reason."]
        end
        if limb.orchard.rulebook.method_fact(values[:technique], "donor") && values[:donor].to_s.strip.empty?
          found[:donor] = ["say which rooted plant it is joined to"]
        end
        found.merge(place_errors(limb, values))
      end

      # Where it is set lies on its limb; what a graft before it has grown may reach further.
      #
      # @return [Hash{Symbol=>Array<String>}] none where it does
      def place_errors(limb, values)
        at, ends = values[:cut_mm], limb[:length_mm]
        return {} if at.nil? || ends.nil? || at <= ends
        return {} if limb.grafts.any? { |each| each.grafted_on < values[:grafted_on] }

        { cut: ["is beyond its end: #{limb.label} is #{Core::Measure.say(ends, limb.orchard.units)} long"] }
      end

      # One that stood before anybody here wrote it down: its day may be a guess, before the day it is known since.
      def known_errors(values, today)
        return { known_since: [SaidDay.ahead(today)] } if values[:known_since] > today
        return {} unless values[:grafted_on] > values[:known_since]

        { known_since: ["is before the day of the graft, which may be a guess but is not later"] }
      end

      def day_errors(limb, day, today)
        if day > today
          { grafted_on: [SaidDay.ahead(today)] }
        elsif day < limb.surveyed_on
          { grafted_on: ["is before the limb was surveyed on #{SaidDay.of(limb.surveyed_on)}; a graft is dated that " \
                         "day or later"] }
        elsif limb.gone_on && day > limb.gone_on
          { grafted_on: ["is after #{limb.label} came off on #{SaidDay.of(limb.gone_on)}"] }
        else
          {}
        end
      end

      # Why the day is an unlikely one for the method, in a sentence; nil when it is not.
      def out_of_season(limb, values)
        return nil unless Core::Rulebook.shipped.species_names.include?(limb.tree.species)

        method, on = values.values_at(:technique, :grafted_on)
        early, late = usual_days(limb, method, on)
        return nil if on.between?(early, late)

        "#{limb.orchard.rulebook.book('methods')[method]['name']} is made here between #{early.strftime('%-d %B')} " \
          "and #{late.strftime('%-d %B')}; #{on.strftime('%-d %B')} is out of season."
      end

      def usual_days(limb, method, on)
        here, book = limb.orchard, limb.orchard.rulebook
        Core::Slip::UsualDays.of(limb.tree.species, method, on, here.season, latitude_deg: here.latitude,
                                 altitude_m: here.altitude_m, rulebook: book,
                                 last_bud: (here.last_days(on).bud if book.works_at?(method, "shoot")))
      end

      # Why there are too many sticks, in a sentence; nil where there are not.
      def crowded(limb, values)
        book = limb.orchard.rulebook
        most = book.value("methods.#{values[:technique]}.most_sticks")
        return nil if values[:sticks].to_i <= most

        "#{book.book('methods')[values[:technique]]['name']} has room " \
        "for #{most == 1 ? 'one stick' : "#{most} sticks"}."
      end

      # Why the method does not fit the stub, in a sentence; nil when it does.
      def misfit(limb, values)
        method = values.fetch(:technique)
        low, high = limb.orchard.rulebook.value("methods.#{method}.stock_works")
        stub = values.fetch(:stub_mm)
        return nil if Core::Near.at_least?(stub, low) && (high.nil? || Core::Near.at_most?(stub, high))

        name = limb.orchard.rulebook.book("methods")[method]["name"]
        said, from, to = Core::Apart.say(stub, [low, high], limb.orchard.units)
        "#{name} works from #{from}#{" to #{to}" if to}; this stub is #{said}."
      end
      private_class_method :errors, :known_errors, :day_errors, :out_of_season, :usual_days, :crowded
    end
  end
end
