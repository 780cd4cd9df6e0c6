# frozen_string_literal: true

require "fileutils"
require "securerandom"

module Vestry
  module Deeds
    # Brings a packed orchard in as a new one, first tried and told, then done; whoever brings it is its
    # steward.
    module BringOrchard
      MOST_BYTES = 2 * 1024 * 1024 * 1024
      Told = Struct.new(:token, :name, :slug, :counts, keyword_init: true)

      module_function

      # Keeps the zip, and reads it all the way through without keeping what it read.
      #
      # @return [Told]
      # @raise [Refused]
      def try(file, slug: nil)
        raise Refused, archive: ["Choose a zip first."] unless file
        raise Refused, archive: ["It is larger than #{MOST_BYTES / 1024**3} GB."] if file.size > MOST_BYTES

        token = SecureRandom.uuid
        FileUtils.mkdir_p(File.dirname(path(token)))
        FileUtils.cp(file.path, path(token))
        tried(token, slug)
      rescue Records::Archive::Unreadable => e
        FileUtils.rm_f(path(token)) if token
        raise Refused, archive: [e.message]
      end

      # @raise [Refused]
      def call(token, account, slug: nil)
        raise Refused, archive: ["was not tried yet, or has been brought in already"] unless token.to_s.match?(/\A[0-9a-f-]{36}\z/) && File.file?(path(token))

        orchard = DB.transaction do
          Records::Archive.read(path(token), slug: clean(slug)).tap { |made| Records::Membership.create(orchard_id: made.id, account_id: account.id, role: "steward") }
        end
        FileUtils.rm_f(path(token))
        orchard
      rescue Records::Archive::Unreadable => e
        raise Refused, archive: [e.message]
      end

      def tried(token, slug)
        told = nil
        DB.transaction(rollback: :always) do
          made = Records::Archive.read(path(token), slug: clean(slug))
          told = Told.new(token: token, name: made.name, slug: made.slug, counts: { "trees" => :trees, "limbs" => :limbs, "grafts" => :grafts, "visits" => :observations, "autumn counts" => :tallies, "photos" => :photos }.transform_values { |table| DB[table].where(orchard_id: made.id).count })
        end
        told
      end

      def clean(slug) = slug.to_s.match?(/\A[a-z0-9][a-z0-9-]{1,60}\z/) ? slug : nil
      def path(token) = File.join(Settings.var, "uploads", "#{token}.zip")
      private_class_method :tried, :clean, :path
    end
  end
end
