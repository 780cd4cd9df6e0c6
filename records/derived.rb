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
        json = DB[:derived].where(**key, revision: revision).get(Sequel.cast(:result, String))
        return Plain.load(JSON.parse(json)) if json

        afresh(orchard, &work).tap { |result| store(key, revision, result) }
      end

      def afresh(orchard)
        return yield orchard if orchard.reading?

        Orchard.with_pk!(orchard.id).then { |fresh| fresh.with_current(reading: true) { yield fresh } }
      end
      private_class_method :afresh

      # Once what is under way is kept: a transaction that held other rows meanwhile would wait here for another that
      # waits for those.
      def store(key, revision, result)
        row = { **key, revision: revision, result: Sequel.lit("?::jsonb", JSON.generate(Plain.dump(result))) }
        DB.after_commit(savepoint: true) do
          DB[:derived].insert_conflict(target: %i[orchard_id what day],
                                       update: { revision: revision, result: Sequel[:excluded][:result] }).insert(row)
        end
      end
      private_class_method :store

      def revision(orchard, from)
        Digest::SHA256.hexdigest([RELEASE, orchard.version, *orchard.revisions.values_at(*from)].join("/"))[0, 32]
      end
      private_class_method :revision

      # Plain values as JSON and back: hashes, arrays, strings, numbers, true, false, nil, symbols, dates and times.
      # A hash is a list of keys and values in turn behind its sign, so that its order and its keys stay what they are;
      # a date is its Julian day number.
      module Plain
        module_function

        def dump(value)
          case value
          when Hash then ["h", *value.flat_map { |key, each| [dump(key), dump(each)] }]
          when Array then ["a", *value.map { |each| dump(each) }]
          when Time then ["t", value.utc.iso8601(6)]
          when Date then ["d", value.jd]
          when Symbol then value.to_s
          when String then ["s", value]
          when Float, Integer, true, false, nil then value
          else raise ArgumentError, "#{value.class} is no plain value"
          end
        end

        # Symbols are by far the most frequent words, so they are the ones without a sign.
        def load(value)
          case value
          when Array then load_signed(value)
          when String then value.to_sym
          else value
          end
        end

        def load_signed(value)
          case value[0]
          when "h" then load_hash(value)
          when "a" then value.drop(1).map { |each| load(each) }
          when "d" then Date.jd(value[1])
          when "t" then Time.iso8601(value[1])
          else value[1]
          end
        end

        def load_hash(value)
          hash = {}
          at = 1
          while at < value.size
            hash[load(value[at])] = load(value[at + 1])
            at += 2
          end
          hash
        end
      end
    end
  end
end
