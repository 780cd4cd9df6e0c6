# frozen_string_literal: true

module Vestry
  module Deeds
    # An orchard lays a value of its own over the rulebook's, with a reason; or takes it back.
    module Overrule
      # @param path [String] a rulebook path, or +practice.POINT+
      # @param typed [String] the value as typed
      # @raise [Refused] when the rulebook has no such entry, or the value is not of its kind
      def self.call(orchard, path, typed, why:, by:, today:)
        raise Refused, why: ["say why, for whoever reads it next"] if why.to_s.strip.empty?

        value = path.start_with?("practice.") ? choice(path, typed) : like(Core::Rulebook.shipped.entry(path), typed)
        fits!(orchard, path, value)
        lay(orchard, path, { "value" => value, "why" => why.strip, "who" => by, "on" => today.iso8601 }, by)
      rescue KeyError
        raise Refused, path: ["is not in the rulebook"]
      end

      def self.take_back(orchard, path, by:) = lay(orchard, path, nil, by)

      def self.lay(orchard, path, entry, by)
        DB.transaction do
          current = orchard.locked
          laid = current.overrides.to_h.dup
          entry ? laid[path] = entry : laid.delete(path)
          Ledger.change(current, { overrides: laid }, by: by,
                        why: entry ? "#{path}: #{entry['why']}" : "#{path}: back to the rulebook")
        end
      end

      def self.choice(path, typed)
        choices = Core::Rulebook.shipped.book("schools").fetch("points").fetch(path.delete_prefix("practice."))
          .fetch("choices").keys
        choices.include?(typed) ? typed : raise(Refused, value: ["is one of #{choices.join(', ')}"])
      end

      # The book still holds together with it: an ideal range inside the working one, days in their order.
      def self.fits!(orchard, path, value)
        book = Core::Rulebook.shipped.overruled(orchard.overrides.to_h.merge(path => { "value" => value }))
        fault = (book.faults - orchard.rulebook.faults).first
        raise Refused, value: [fault.sub(/\A\S+: /, "")] if fault
      end

      # The typed value, of the same kind as the one that stands.
      def self.like(entry, typed)
        shipped = entry.value
        case shipped
        when Numeric then number(typed, entry)
        when Array then list(typed, entry)
        when true, false then { "true" => true, "false" => false, "yes" => true, "no" => false }
          .fetch(typed.to_s.strip) do
          raise Refused, value: ["is yes or no"]
        end
        when /\A\d\d-\d\d\z/ then typed.to_s.strip.match?(/\A(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])\z/) ? typed.strip :
          raise(Refused, value: ["is a month and day as MM-DD"])
        else raise Refused, value: ["cannot be overruled"]
        end
      end

      def self.number(typed, entry)
        value = Float(typed.to_s.strip.tr(",", "."), exception: false)
        least, most = entry.range
        unless value && value.finite? && value.between?(least, most)
          raise Refused, value: ["is a number from #{Core::Contract.plain(least)} " \
                                 "to #{Core::Contract.plain(most)}#{" (#{entry.unit})" if entry.unit}"]
        end

        value == value.to_i ? value.to_i : value
      end

      def self.list(typed, entry)
        shipped = entry.value
        parts = typed.to_s.split(/\s*(?:,\s|;|\bto\b|\s)\s*/).reject(&:empty?)
        unless parts.size == shipped.size
          raise Refused, value: ["is #{shipped.size} numbers, such as #{shipped.join(' to ')}"]
        end

        values = parts.map { |part| number(part, entry) }
        raise Refused, value: ["goes from the smaller to the larger"] unless values == values.sort

        values
      end
      private_class_method :lay, :choice, :fits!, :like, :number, :list
    end
  end
end
