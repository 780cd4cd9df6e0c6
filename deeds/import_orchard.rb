# frozen_string_literal: true

require "fileutils"
require "securerandom"

module Vestry
  module Deeds
    # Brings a packed orchard in as a new one: its zip is kept, tried to its end in the background and
    # told, and brought in when that is asked for. Whoever brings it is its steward, and can take it back.
    module ImportOrchard
      # A person has so many under way at once, and sends so many bytes in a day.
      MOST_UNDER_WAY = 2
      MOST_A_DAY = 4
      # So often a step of it is begun, where the process that does it ends before it.
      TRIES = 3
      # Zips that were kept and not brought in are swept away after so many days.
      KEPT_DAYS = 7
      COUNTED = { "trees" => :trees, "limbs" => :limbs, "grafts" => :grafts, "visits" => :observations,
                  "autumn counts" => :tallies, "photos" => :photos }.freeze

      module_function

      # @param file [IO, nil] the zip as uploaded
      # @param slug [String, nil] its address here, where another than its own is wanted
      # @return [Records::Upload] waiting to be tried
      # @raise [Refused]
      def keep(account, file, name:, slug: nil)
        raise Refused, archive: ["Choose a zip first."] unless file
        if file.size > most_bytes
          raise Refused, archive: ["It is larger than #{most_bytes / 1024**2} MB; whoever runs the server can bring " \
                                   "it in there (bin/bring)."]
        end

        wanted = slug.to_s.strip
        unless wanted.empty? || wanted.match?(Records::Archive::OrchardFacts::SLUG)
          raise Refused, slug: ["is of small letters, digits and dashes, such as maunder-hill-2"]
        end

        within_quota(account, file.size)
        sweep
        upload = Records::Upload.new(account_id: account.id, token: SecureRandom.uuid, file_name: name.to_s[0, 200],
                                       slug: (wanted unless wanted.empty?), bytes: file.size)
        FileUtils.mkdir_p(File.dirname(upload.path))
        FileUtils.cp(file.path, upload.path)
        DB.transaction do
          upload.save
          Jobs::ImportOrchard.enqueue(upload.id)
        end
        upload
      rescue Errno::ENOSPC, Errno::EDQUOT
        FileUtils.rm_f(upload.path)
        raise Refused, archive: ["cannot be kept: there is no room left for files here"]
      end

      # What is sent through a browser has an end; whoever runs the server sets it.
      def most_bytes = Settings.most_upload_mb * 1024 * 1024

      # @raise [Refused]
      def within_quota(account, bytes)
        if Records::Upload.under_way(account) >= MOST_UNDER_WAY
          raise Refused, archive: ["Two of yours are under way already; wait for them to end."]
        end

        sent = Records::Upload.bytes_since(account, Time.now.utc - 86_400)
        if sent + bytes > MOST_A_DAY * most_bytes
          raise Refused, archive: ["You have sent #{sent / 1024**2} MB since " \
                                   "yesterday; #{MOST_A_DAY * most_bytes / 1024**2} MB a day can be taken."]
        end
      end

      # Sends what was tried on its way. Asked twice, it goes once.
      #
      # @raise [Refused]
      def begin(upload)
        DB.transaction do
          unless upload.advance("tried", state: "sent", done: 0)
            raise Refused, archive: ["was not tried yet, or has been brought in already"]
          end

          Jobs::ImportOrchard.enqueue(upload.id)
        end
      end

      # The next step of it, in the background. Broken off, it is done again from its beginning.
      def go_on(upload)
        return give_up(upload) unless upload.count_try(TRIES)

        case upload.state
        when "waiting", "trying" then try(upload)
        when "sent", "bringing" then bring(upload)
        end
      rescue Records::Archive::Unreadable, Sequel::DatabaseError, SystemCallError, Zip::Error => e
        give_up(upload, e.message.lines.first.to_s.strip[0, 500])
      end

      def give_up(upload, why = "it was begun #{TRIES} times and never came to its end")
        return unless Records::Upload::UNDER_WAY.include?(upload.state)

        FileUtils.rm_f(upload.path)
        upload.update(state: "refused", trouble: why, finished_at: Time.now.utc)
      end

      # Reads it to its end without keeping what was read.
      def try(upload)
        upload.update(state: "trying", done: 0)
        told = nil
        DB.transaction(rollback: :always) do
          made = read(upload, trial: true)
          told = { slug: made.slug, counts: { "name" => made.name, **made.counts(COUNTED) } }
        end
        upload.update(told.merge(state: "tried", tries: 0))
      end

      def bring(upload)
        upload.update(state: "bringing", done: 0)
        DB.transaction do
          made = finish(read(upload), upload.account_id)
          upload.update(state: "here", orchard_id: made.id, finished_at: Time.now.utc)
        end
        FileUtils.rm_f(upload.path)
      end

      # What was read has its steward, and what its seasons have taught, which is not packed with it.
      #
      # @param made [Records::Orchard]
      # @return [Records::Orchard]
      def finish(made, account_id)
        Records::Membership.create(orchard_id: made.id, account_id: account_id, role: "steward")
        LearnFigures.call(made, today: Outside::Clock.today(made.time_zone))
        made
      end

      def read(upload, trial: false)
        far = Progress.new(upload)
        Records::Archive.read(upload.path, slug: upload.slug, trial: trial) do |share|
          far.tell(done: (upload.bytes * share).floor)
        end
      end

      # Takes the orchard out of sight again, and frees its address; it can be brought back.
      #
      # @raise [Refused] when others belong to it by now
      def undo(upload, by:)
        unless upload.state == "here" && upload.undone_at.nil?
          raise Refused, archive: ["is not here, or was taken back already"]
        end

        DB.transaction do
          orchard = upload.orchard.locked
          raise Refused, archive: ["others belong to #{orchard.name} by now: it stays"] if upload.others?

          Ledger.change(orchard, { slug: "#{orchard.slug}-taken-back-#{orchard.id}", hidden_at: Time.now.utc }, by: by,
                        why: "#{upload.file_name} was taken back")
          upload.update(undone_at: Time.now.utc)
        end
      end

      # Brings it back to where it stood, or as near as is free.
      #
      # @return [Records::Orchard]
      # @raise [Refused]
      def restore(upload, by:)
        raise Refused, archive: ["was not taken back"] unless upload.undone_at

        DB.transaction do
          upload.update(undone_at: nil)
          BeginOrchard.address(upload.slug) do |slug|
            Ledger.change(upload.orchard, { slug: slug, hidden_at: nil }, by: by, why: "#{upload.file_name} is back")
          end
        end
      end

      def sweep
        Records::Upload.tried_before(Time.now.utc - KEPT_DAYS * 86_400).each do |old|
          FileUtils.rm_f(old.path)
          old.update(state: "refused", trouble: "It was not brought in within #{KEPT_DAYS} days; send it again.",
                     finished_at: Time.now.utc)
        end
      end
      private_class_method :try, :bring, :read, :sweep, :within_quota, :give_up
    end
  end
end
