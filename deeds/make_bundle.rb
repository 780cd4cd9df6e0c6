# frozen_string_literal: true

module Vestry
  module Deeds
    # Makes a bundle: judged, counted, and put into a store.
    module MakeBundle
      # What is judged stick by stick before a bundle is tied; all of it, or the bundle is refused.
      CHECKS = {
        growth: "must be last season's growth: below the ring scar it is older wood, and refused",
        buds: "must carry leaf buds; flower buds are set aside",
        health: "must be sound: no canker, no shrivelled bark, no frost",
        ends: "must have the unripe tip and the thick base cut away",
        way: "must be marked which way is up"
      }.freeze
      MOST = 500

      # @param values [Hash] +variety+ (id), +tree+ (a label, own wood) or +source+ (from elsewhere), +cut_on+,
      #   +count+ or +diameters+ (mm), +length_mm+, +whole_shoots+, +ends+, +dip+, +packing+, +store+ (id),
      #   +cut_by+, +checked+ (names of CHECKS), +client_key+
      # @return [Records::Bundle]
      # @raise [Refused]
      def self.call(orchard, values, by:, today:)
        variety, tree, errors = look(orchard, values, today)
        raise Refused, errors if errors.any?

        DB.transaction do
          bundle = Ledger.add(Records::Bundle, values.slice(:source, :cut_on, :length_mm, :ends, :dip, :packing,
                                                            :cut_by, :client_key).merge(orchard_id: orchard.id,
                                                              variety_id: variety.id, tree_id: tree&.id,
                                                              whole_shoots: values[:whole_shoots] || false), by: by)
          next bundle if bundle.sticks.any?

          add_sticks(bundle, values[:diameters] || Array.new(values[:count]))
          stay(bundle, orchard, values[:store], values[:cut_on]) if values[:store]
          bundle
        end
      end

      def self.look(orchard, values, today)
        errors = {}
        variety = find(orchard, values[:variety]) || (errors[:variety] = ["is not in this orchard's register"]) && nil
        tree = values[:tree] && Records::Finder.tree(orchard, values[:tree])
        if values[:tree] && tree.nil?
          errors[:tree] = ["#{values[:tree]} is not a tree here; write its row and number, as A3"]
        end
        if values[:tree].nil? && values[:source].to_s.strip.empty?
          errors[:tree] = ["say which tree it was cut from, or where it came from"]
        end
        errors[:cut_on] = ["lies in the future; #{today.iso8601} is the latest"] if values[:cut_on] > today
        if values[:count].nil? && values[:diameters].to_a.empty?
          errors[:count] = ["say how many sticks, or type their diameters"]
        end
        if [values[:count].to_i, values[:diameters].to_a.size].max > MOST
          errors[:count] = ["#{MOST} sticks in one bundle at most; make two"]
        end
        if values[:count] && values[:diameters].to_a.any? && values[:count] != values[:diameters].size
          errors[:count] = ["says #{values[:count]}, and #{values[:diameters].size} diameters are typed"]
        end
        if variety&.outside && tree.nil? && values[:source].to_s.strip.empty? && variety.origin.to_s.strip.empty?
          errors[:source] = ["say where the wood comes from: whoever checks plant health will ask"]
        end
        if variety && Records::VarietyFit.unpermitted?(variety)
          errors[:variety] = ["#{variety.name} is protected and no permission is recorded: record it in the " \
                              "register first"]
        end
        missing = CHECKS.keys - values.fetch(:checked, []).map(&:to_sym)
        errors[:checked] = missing.map { |name| "It #{CHECKS[name]}." } if missing.any?
        [variety, tree, errors]
      end

      def self.find(orchard, id)
        orchard.variety!(id)
      rescue Records::Missing
        nil
      end

      # Puts more sticks into a bundle, numbered on.
      def self.add_sticks(bundle, diameters)
        last = Records::Stick.where(bundle_id: bundle.id).max(:number).to_i
        DB[:sticks].multi_insert(diameters.each_with_index.map { |mm, i| { orchard_id: bundle.orchard_id,
          bundle_id: bundle.id, number: last + i + 1, diameter_mm: mm } })
        bundle.associations.delete(:sticks)
      end

      # Where it lies from a day on.
      def self.stay(bundle, orchard, store_id, day)
        store = Records::Store.in_sight.first(orchard_id: orchard.id, id: store_id) or raise Refused,
               store: ["is not one of this orchard's stores"]
        DB[:bundle_stays].insert(orchard_id: orchard.id, bundle_id: bundle.id, store_id: store.id,
                                 since: Outside::Clock.start_of(orchard.time_zone, day))
      end
      private_class_method :look, :find
    end
  end
end
