# frozen_string_literal: true

require "rodauth"

module Vestry
  module Deeds
    # What a password must be. Its length is what guards it; what many people choose, and one's own address or name,
    # are tried first by whoever guesses.
    module PasswordRule
      LEAST = 12
      # The hash reads no further; what is longer is refused rather than cut.
      MOST_BYTES = 72
      FEWEST_DIFFERENT = 5
      COMMON_LIST = File.join(Gem.loaded_specs.fetch("rodauth").full_gem_path, "dict/top-10_000-passwords.txt")

      module_function

      # @param about [Array<String>] the person's address and name
      # @return [String, nil] what is wrong with it, as it stands after "the password"
      def fault(password, about: [])
        text = password.to_s
        return "is too short: #{LEAST} characters or more" if text.length < LEAST
        if text.bytesize > MOST_BYTES
          return "is too long: #{MOST_BYTES} bytes at most, which is #{MOST_BYTES} plain letters"
        end
        return "holds a character that cannot be typed" if text.match?(/[[:cntrl:]]/)
        if text.downcase.chars.uniq.size < FEWEST_DIFFERENT
          return "is too simple: #{FEWEST_DIFFERENT} different characters or more"
        end
        return "is one that many people choose" if common?(text)

        "says your own name or address" if about.compact.any? { |words| said?(text, words) }
      end

      # A common word with digits or signs about it, or twice over, is no less common.
      def common?(text)
        plain = text.downcase
        bare = plain.gsub(/\A[^[:alpha:]]+|[^[:alpha:]]+\z/, "")
        half = plain[0, plain.length / 2]
        [plain, bare, (half if half * 2 == plain)].compact.any? { |word| list.include?(word) }
      end

      def said?(text, words)
        plain = words.downcase
        [plain, plain[/\A[^@]+/]].any? do |part|
          part.length > 3 && text.downcase.delete(" ").include?(part.delete(" ")) && text.length < part.length + 6
        end
      end

      def list = @list ||= Set.new(File.foreach(COMMON_LIST, chomp: true).map(&:downcase)).freeze
      private_class_method :common?, :said?, :list
    end
  end
end
