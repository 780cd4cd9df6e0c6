# frozen_string_literal: true

require "fileutils"
require "net/http"

module Vestry
  module Outside
    # Whether this installation has what it needs to serve, for bin/check and as a process begins.
    module SelfCheck
      # +what+ was looked at, whether it is +ok+, and +words+: what is wrong and what to do.
      Finding = Struct.new(:what, :ok, :words, keyword_init: true)
      SECRET_BYTES = 64
      # So far the database's clock and this machine's may be apart.
      CLOCK_SECONDS = 5
      PATIENCE = 3
      MIGRATIONS = File.join(ROOT, "records/migrations")
      private_constant :SECRET_BYTES, :CLOCK_SECONDS, :PATIENCE, :MIGRATIONS

      module_function

      # @return [Array<Finding>] everything that is looked at
      def all = [migrations, clock, zone, *folders, *photos, *secrets, host, weather, mail].freeze

      # @return [Finding] a database that behind the application, or ahead of it, cannot be served from
      def migrations
        Sequel.extension(:migration)
        current = Sequel::Migrator.is_current?(DB, MIGRATIONS)
        finding("migrations", current, "the database is not at this application's migrations: stop what serves, take " \
                                       "a backup (bin/backup), run bin/prepare, and start again")
      end

      def clock
        apart = (DB.get(Sequel.function(:clock_timestamp)).to_time - Time.now).abs
        finding("clock", apart < CLOCK_SECONDS, "the database's clock and this machine's are #{apart.round} s apart: " \
                                                "set both by the network")
      end

      def zone
        told = DB.fetch("SHOW TimeZone").get
        finding("zone", told == "UTC", "connections are at #{told} and not at UTC")
      end

      def folders
        [Settings.var, *(File.join(Settings.var, "photos") unless Settings.photos)].map do |folder|
          finding("folder #{folder}", writable?(folder), "it cannot be written: give it to the user that serves")
        end
      end

      # The store of photos, where one is named.
      def photos
        return [] unless Settings.photos

        trouble = PhotoStore.trouble
        [finding("photos", trouble.nil?, "the store of photos does not answer: #{trouble}")]
      end

      def secrets
        { "cookies" => Settings.cookie_secrets.first, "keys in letters" => Settings.hmac_secrets.first }
          .map do |what, secret|
          finding("secret for #{what}", secret.bytesize >= SECRET_BYTES,
                  "it is shorter than #{SECRET_BYTES} bytes: make a new one (bin/rotate-keys)")
        end
      end

      def host
        finding("host", !Settings.address.nil?, "VESTRY_HOST is not set: letters, labels and calendars go without " \
                                                "addresses")
      end

      # A service that is named and does not answer.
      def weather
        return finding("weather", true, "") unless Settings.standins

        finding("weather", answers?(Settings.standins), "#{Settings.standins} does not answer")
      end

      def mail
        trouble = MailService.trouble if MailService.named?
        finding("mail", trouble.nil?, "the mail service does not answer: #{trouble}")
      end

      def finding(what, sound, words) = Finding.new(what: what, ok: sound ? true : false, words: words)

      def writable?(folder)
        FileUtils.mkdir_p(folder)
        File.writable?(folder)
      rescue SystemCallError
        false
      end

      def answers?(address)
        uri = URI(address)
        Net::HTTP.start(uri.host, uri.port, open_timeout: PATIENCE, read_timeout: PATIENCE,
                                            use_ssl: uri.scheme == "https") { |http| http.head("/") }
        true
      rescue StandardError
        false
      end
      private_class_method :clock, :zone, :photos, :secrets, :host, :weather, :mail, :finding, :writable?, :answers?
    end
  end
end
