# frozen_string_literal: true

require "json"
require "digest"

module Vestry
  module Records
    # Results that are dear to work out, stored in the database under what they follow from: the revisions of
    # the tables that are read for them, the orchard's own version, the day, and the release of this application.
    # One that is not stored under just these is worked out and stored; whoever comes first does it for everyone.
    module Derived
      # Days that are over are no longer asked for.
      DAYS = 7

      module_function

      # @param what [String] its name
      # @param day [Date] the day taken to be today
      # @param from [Array<String>] the tables that it follows from
      # @yieldparam orchard [Orchard] read after the revisions were: what is worked out is never older than they are
      # @yieldreturn [Hash, Array] plain values: see Plain
      # @return [Hash, Array] the same values, whether worked out now or read
      def fetch(orchard, what, day, from:, &work)
        revision = revision(orchard, from)
        key = { orchard_id: orchard.id, what: what, day: day }
        json = DB[:derived].where(**key, revision: revision).get(Sequel.cast(:result, String)) ||
          store(key, revision, JSON.generate(Plain.dump(afresh(orchard, &work))))
        Plain.load(JSON.parse(json))
      end

      def afresh(orchard)
        return yield orchard if orchard.reading?

        Orchard.with_pk!(orchard.id).then { |fresh| fresh.with_current(reading: true) { yield fresh } }
      end
      private_class_method :afresh

      # @return [String] the JSON
      def store(key, revision, json)
        DB[:derived].insert_conflict(target: %i[orchard_id what day],
                                     update: { revision: revision, result: Sequel[:excluded][:result] })
                    .insert(**key, revision: revision, result: Sequel.lit("?::jsonb", json))
        json
      end
      private_class_method :store

      def revision(orchard, from)
        Digest::SHA256.hexdigest([RELEASE, orchard.version, *orchard.revisions.values_at(*from)].join("/"))[0, 32]
      end
      private_class_method :revision

      # Plain values as JSON and back: hashes with symbols for keys, arrays, strings, numbers, true, false, nil,
      # dates and times.
      module Plain
        module_function

        def dump(value)
          case value
          when Hash then { "h" => value.map { |key, each| [dump_key(key), dump(each)] } }
          when Array then value.map { |each| dump(each) }
          when Time then { "t" => value.utc.iso8601(6) }
          when Date then { "d" => value.iso8601 }
          when Symbol then { "s" => value.to_s }
          when Float, Integer, String, true, false, nil then value
          else raise ArgumentError, "#{value.class} is no plain value"
          end
        end

        def dump_key(key) = key.is_a?(Symbol) ? key.to_s : { "k" => key }

        def load(value)
          case value
          when Array then value.map { |each| load(each) }
          when Hash
            kind, inner = value.first
            case kind
            when "h" then inner.to_h { |key, each| [key.is_a?(String) ? key.to_sym : key["k"], load(each)] }
            when "d" then Date.iso8601(inner)
            when "t" then Time.iso8601(inner)
            when "s" then inner.to_sym
            end
          else value
          end
        end
      end
    end
  end
end
