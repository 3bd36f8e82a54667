# frozen_string_literal: true

module NimbleLetter
  module Records
    # A picture of the library. Its key is all one needs to see it, since mail programs sign in nowhere.
    class Picture < Sequel::Model(:pictures)
      ENDINGS = {"image/jpeg" => "jpg", "image/png" => "png"}.freeze

      dataset_module do
        def without_data = select(*(Picture.columns - [:data]))
      end

      # @return [String] below the address of the site
      def path = "/p/#{key}.#{ENDINGS.fetch(mime)}"
    end
  end
end
