# frozen_string_literal: true

module Vestry
  module Deeds
    # Writes a variety into the register, or changes what is written of it.
    module KeepVariety
      # @param values [Hash] columns of a variety
      # @param variety [Records::Variety, nil] the one to change
      # @raise [Refused]
      def self.call(orchard, values, by:, variety: nil, version: nil)
        check(orchard, (variety ? variety.values : {}).merge(values), variety)
        return Ledger.change(variety, values, by: by, version: version) if variety

        Ledger.add(Records::Variety, values.merge(orchard_id: orchard.id), by: by)
      rescue Sequel::UniqueConstraintViolation
        raise Refused, name: ["#{values[:name]} is in the register already"]
      end

      def self.check(orchard, values, variety)
        errors = half_windows(values)
        taken = taken(Records::Variety.named(orchard, values[:name], except: variety))
        errors[:name] = [taken] if taken
        unless Core::Rulebook.shipped.kin_names.include?(values[:species])
          errors[:species] = ["is one of #{Core::Rulebook.shipped.kin_names.join(', ')}"]
        end
        if values[:outside] && values[:origin].to_s.strip.empty?
          errors[:origin] = ["say where the wood comes from: whoever checks plant health will ask"]
        end
        raise Refused, errors if errors.any?
      end

      def self.half_windows(values)
        [%i[bloom_from bloom_to], %i[harvest_from harvest_to]]
          .select { |from, to| values[from].nil? != values[to].nil? }
          .to_h { |_, to| [to, ["both ends are wanted, or neither"]] }
      end

      # Names are given once, and what is out of sight keeps its own.
      def self.taken(other)
        return if other.nil?
        return "#{other.name} is another name of #{other.same_as.name} here" if other.same_as
        return "#{other.name} is in the register already" unless other.hidden?

        "#{other.name} was taken out of the register: bring it back under History"
      end
      private_class_method :check, :half_windows, :taken
    end
  end
end
