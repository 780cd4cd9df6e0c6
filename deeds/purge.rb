# frozen_string_literal: true

module Vestry
  module Deeds
    # Throws away what has been kept for its time.
    module Purge
      DAY = 86_400
      # A letter for one person alone opens something for a day; one about an orchard is read again for a while.
      PERSONAL_LETTER_DAYS = 2
      LETTER_DAYS = 60
      REQUEST_DAYS = 7
      SESSION_DAYS = 90
      INVITE_DAYS = 30
      PACKED_DAYS = 30
      UNFINISHED_IMPORT_DAYS = 30
      IMPORT_TEXT_DAYS = 180
      JOB_DAYS = 7
      FAILED_JOB_DAYS = 60
      # A photo is written before its row; one without a row after so long has none.
      ORPHAN_AGE = DAY
      MOST_ORPHANS = 10

      module_function

      def letters(now = Time.now.utc)
        Records::Expired.letters(personal: now - PERSONAL_LETTER_DAYS * DAY, others: now - LETTER_DAYS * DAY)
      end

      def sign_in(now = Time.now.utc)
        [Records::SignInTries, Records::KnownDevice, Records::DoorLog].each { |each| each.purge(now) }
        Records::Expired.sign_in(sessions: now - SESSION_DAYS * DAY, keys: now - DAY, invites: now - INVITE_DAYS * DAY)
      end

      def requests(now = Time.now.utc)
        Records::Expired.requests(answers: now - REQUEST_DAYS * DAY, counts: now - DAY)
      end

      def imports(now = Time.now.utc)
        Records::Expired.imports(unfinished: now - UNFINISHED_IMPORT_DAYS * DAY, texts: now - IMPORT_TEXT_DAYS * DAY)
      end

      def jobs(now = Time.now.utc)
        Records::Expired.jobs(finished: now - JOB_DAYS * DAY, given_up: now - FAILED_JOB_DAYS * DAY)
      end

      def derived(now = Time.now.utc)
        Records::Revisions.gather
        Records::Expired.derived(before: now.to_date - Records::Derived::DAYS)
      end

      # Packed orchards nobody fetched, and what was left of files that came in.
      def files(now = Time.now.utc)
        old = Records::Export.ended_before(now - PACKED_DAYS * DAY)
        old.each do |export|
          FileUtils.rm_f(PackOrchard.path(export.id))
          export.delete
        end
        kept = Records::Upload.kept_paths
        (Dir[File.join(Settings.var, "uploads", "*.zip")] - kept).each do |path|
          FileUtils.rm_f(path) if File.mtime(path) < now - DAY
        end
      end

      # Pictures that no photo and no cut points at. Where they are many, the folder belongs to other records.
      def photos(now = Time.now.utc)
        known = Records::Photo.picture_ids | Records::PracticeCut.picture_ids
        kept = Outside::PhotoStore.kept
        orphans = kept.reject { |id, written_at| known.include?(id) || written_at > now - ORPHAN_AGE }.keys
        if orphans.size > MOST_ORPHANS && orphans.size > kept.size / 10
          raise "#{orphans.size} of #{kept.size} pictures have no photo: none is thrown away"
        end

        orphans.each { |id| Outside::PhotoStore.drop(id) }
      end
    end
  end
end
