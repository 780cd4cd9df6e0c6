# frozen_string_literal: true

module Vestry
  module Deeds
    # Records a graft that was made.
    module LogGraft
      # @param values [Hash] columns of a graft
      # @param today [Date]
      # @param bundle [Records::Bundle, nil] the one its sticks were taken from
      # @return [Records::Graft]
      # @raise [Refused] when the limb was logged on that day already (unless +again+), the day cannot be right,
      #   the stub and the method do not go together
      #   unexplained, or the bundle has not so many sticks left
      def self.call(limb, values, by:, today:, bundle: nil)
        against = against(limb, values)
        errors = errors(limb, values, against, today)
        raise Refused, errors if errors.any?

        DB.transaction do
          # Two phones that log the same limb wait for each other.
          limb.locked
          again!(limb, values)
          BeginSheet.call(limb.orchard, today) if values[:grafted_on] == today
          graft = Ledger.add(Records::Graft, values.except(:again).merge(orchard_id: limb.orchard_id, limb_id: limb.id,
            against_reason: against && values[:against_reason]), by: by)
          next graft if Records::Stick.used_for?(graft)

          MoveSticks.use(bundle, graft, graft.sticks, by: by) if bundle
          fell(limb, graft, by) if graft.cut_mm
          graft
        end
      end

      # What the rulebook says against it, in a sentence or two; nil where nothing.
      def self.against(limb, values)
        return if values[:known_since]

        words = [misfit(limb, values), crowded(limb, values), out_of_season(limb, values)].compact
        words.empty? ? nil : words.join(" ")
      end

      def self.errors(limb, values, against, today)
        found = values[:known_since] ? known_errors(values, today) : day_errors(limb, values[:grafted_on], today)
        if against && values[:against_reason].to_s.strip.empty?
          found[:against_reason] = ["#{against} It can be kept with a reason."]
        end
        if limb.orchard.rulebook.method_fact(values[:technique], "donor") && values[:donor].to_s.strip.empty?
          found[:donor] = ["say which rooted plant it is joined to"]
        end
        found
      end

      # A second graft on the same limb and day is more often the same one logged twice: it is asked about.
      #
      # @raise [Refused]
      def self.again!(limb, values)
        return if values[:again]

        made = Records::Graft.made_on(limb, values[:grafted_on])
        return if made.empty? || made.any? { |each| values[:client_key] && each.client_key == values[:client_key] }

        one = made.last
        way = limb.orchard.rulebook.book("methods")[one.technique]["name"].downcase
        raise Refused, again: ["#{limb.label} was logged on that day already: #{one.variety.name}, #{way}, " \
                               "by #{one.grafter}. " \
                               "Is this another graft?"]
      end

      # What grew beyond the cut went with it.
      def self.fell(limb, graft, by)
        gone = limb.children.select { |each| each.gone_on.nil? && each.fork_mm >= graft.cut_mm }
        until gone.empty?
          gone.each do |each|
            Ledger.change(each, { gone_on: graft.grafted_on }, by: by, why: "cut off with limb #{limb.tag}")
          end
          gone = gone.flat_map(&:standing_children)
        end
      end

      # Of a graft that is taken away: what was said to have gone with its limb's top stands again, but for what came
      # off that day by itself, or by another graft.
      def self.stand_again(graft, by)
        up = cut_off_by(graft)
        until up.empty?
          up = up.select { |each| each.gone_on == graft.grafted_on && !Records::LimbEvent.taken_off?(each) }
          up.each do |each|
            Ledger.change(each, { gone_on: nil }, by: by, why: "the graft on #{graft.limb.tag} was taken away")
          end
          up = up.flat_map(&:children)
        end
      end

      # What leaves its limb beyond its cut, and beyond no other's that was made that day.
      def self.cut_off_by(graft)
        return [] if graft.cut_mm.nil?

        others = Records::Graft.made_on(graft.limb, graft.grafted_on).filter_map(&:cut_mm)
        graft.limb.children.select do |each|
          each.fork_mm >= graft.cut_mm && others.none? { |cut| each.fork_mm >= cut }
        end
      end

      # One that stood before anybody here wrote it down: its day may be a guess, before the day it is known since.
      def self.known_errors(values, today)
        return { known_since: [SaidDay.ahead(today)] } if values[:known_since] > today
        return {} unless values[:grafted_on] > values[:known_since]

        { known_since: ["is before the day of the graft, which may be a guess but is not later"] }
      end

      def self.day_errors(limb, day, today)
        if day > today
          { grafted_on: [SaidDay.ahead(today)] }
        elsif day < limb.surveyed_on
          { grafted_on: ["is before the limb was surveyed on #{SaidDay.of(limb.surveyed_on)}; a graft is dated that " \
                         "day or later"] }
        else
          {}
        end
      end

      # Why the day is an unlikely one for the method, in a sentence; nil when it is not.
      def self.out_of_season(limb, values)
        species, book = limb.tree.species, limb.orchard.rulebook
        return nil unless Core::Rulebook.shipped.species_names.include?(species)

        early, late = Core::Slip::UsualDays.of(species, values[:technique], values[:grafted_on], limb.orchard.season,
                                               latitude_deg: limb.orchard.latitude,
                                               altitude_m: limb.orchard.altitude_m, rulebook: book)
        return nil if values[:grafted_on].between?(early, late)

        "#{book.book('methods')[values[:technique]]['name']} is made here between #{early.strftime('%-d %B')} " \
        "and #{late.strftime('%-d %B')}; #{values[:grafted_on].strftime('%-d %B')} is out of season."
      end

      # Why there are too many sticks, in a sentence; nil where there are not.
      def self.crowded(limb, values)
        book = limb.orchard.rulebook
        most = book.value("methods.#{values[:technique]}.most_sticks")
        return nil if values[:sticks].to_i <= most

        "#{book.book('methods')[values[:technique]]['name']} has room " \
        "for #{most == 1 ? 'one stick' : "#{most} sticks"}."
      end

      # Why the method does not fit the stub, in a sentence; nil when it does.
      def self.misfit(limb, values)
        method = values.fetch(:technique)
        low, high = limb.orchard.rulebook.value("methods.#{method}.stock_works")
        stub = values.fetch(:stub_mm)
        return nil if Core::Near.at_least?(stub, low) && (high.nil? || Core::Near.at_most?(stub, high))

        name = limb.orchard.rulebook.book("methods")[method]["name"]
        units = limb.orchard.units
        "#{name} works from #{Core::Measure.say(low, units)}#{" to #{Core::Measure.say(high, units)}" if high}; " \
          "this stub is #{Core::Measure.say(stub, units)}."
      end
      private_class_method :against, :errors, :day_errors, :known_errors, :again!, :cut_off_by, :crowded, :out_of_season
    end
  end
end
