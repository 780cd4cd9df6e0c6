# frozen_string_literal: true

require "mail"
require "net/smtp"
require "uri"

module Vestry
  module Outside
    # Sends letters by SMTP, where a service is named (VESTRY_SMTP); else they wait in the outbox alone.
    module MailService
      # It will not take this letter, however often it is asked.
      class LetterRefused < StandardError; end
      # It cannot be reached, or asks to be asked again.
      class Silent < StandardError; end
      SECONDS = 10
      LOOPBACK = /\A(localhost|127\..*|::1)\z/
      private_constant :SECONDS, :LOOPBACK

      module_function

      def named? = !Settings.smtp.nil?

      # @param letter [Hash] a row: +id+, +address+, +subject+, +body+, +sent_at+
      # @raise [LetterRefused, Silent]
      def deliver(letter)
        mail(letter).deliver!
      rescue Net::SMTPFatalError, Net::SMTPSyntaxError => e
        raise LetterRefused, words(e)
      rescue Net::SMTPAuthenticationError, Net::SMTPServerBusy, Net::SMTPUnknownError, Net::OpenTimeout,
             Net::ReadTimeout, OpenSSL::SSL::SSLError, IOError, SystemCallError, SocketError => e
        raise Silent, words(e)
      end

      # @return [String, nil] what is wrong with reaching it
      def trouble
        service = Net::SMTP.new(uri.host, uri.port, tls: tls?, starttls: starttls)
        service.open_timeout = service.read_timeout = SECONDS
        service.start { nil }
        nil
      rescue StandardError => e
        words(e)
      end

      def mail(letter)
        sender = from
        to, subject, body = letter.values_at(:address, :subject, :body)
        number = letter.fetch(:id)
        Mail.new(charset: "UTF-8", from: sender, to: to, subject: subject.tr("\r\n", "  "), body: body,
                 date: letter[:sent_at].to_datetime, message_id: "<letter-#{number}@#{sender[/[^@>\s]+(?=>?\z)/]}>",
                 "Auto-Submitted" => "auto-generated").tap { |mail| mail.delivery_method(:smtp, **how) }
      end

      def how
        account = { user_name: part(uri.user), password: part(uri.password), authentication: uri.user && :plain }
        { address: uri.host, port: uri.port, tls: tls?, enable_starttls: starttls, open_timeout: SECONDS,
          read_timeout: SECONDS, domain: "localhost", **account.compact }
      end

      # From whom: VESTRY_MAIL_FROM, else of the host that people use.
      def from
        Settings.mail_from || "vestry@#{Settings.address ? URI(Settings.address).host : 'localhost'}"
      end

      def uri = URI.parse(Settings.smtp.sub(/\Asmtp/, "http")).tap { |uri| uri.port = port(uri) }

      def port(uri) = Settings.smtp.match?(/:\d+\/?\z/) ? uri.port : (tls? ? 465 : 587)
      def tls? = Settings.smtp.start_with?("smtps:")

      # A password goes over the net sealed, or not at all.
      def starttls
        return false if tls?

        uri_host = URI.parse(Settings.smtp.sub(/\Asmtp/, "http"))
        uri_host.user && !uri_host.host.match?(LOOPBACK) ? :always : :auto
      end

      def part(text) = text && URI.decode_www_form_component(text)
      def words(error) = error.message.to_s.scrub("?").strip.lines.first.to_s.strip[0, 300]
      private_class_method :mail, :how, :from, :uri, :port, :tls?, :starttls, :part, :words
    end
  end
end
